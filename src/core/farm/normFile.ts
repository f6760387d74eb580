import { leafNorm, type LeafNorm } from '../document/leafDocument';
import { tissueNutrientOf, tissueNutrients } from '../book/tissueNutrients';
import { readGrid } from '../laboratory/grid';
import { markOf, readFigure } from '../laboratory/figures';
import { refuse } from '../quantity/refusal';
import { ENOUGH_FOR_NORMS } from '../tissue/ownStandard';

// Norms of the balance of nutrients that somebody brings: a row a pair (chapter 5, F8.5).

export interface NormList {
  norms: Omit<LeafNorm, 'by' | 'on'>[];
  /** Rows that do not come in, and why. */
  left: { row: number; text: string; reason: string }[];
}
/** What the norms are meant for; a file that names another crop, part or stage is not for it. */
export interface NormPlace {
  cropKey: string;
  cropName: string;
  setId: string | null;
  part: string;
  partLabel: string;
  bbchFrom: number;
  bbchTo: number;
}
const COLUMNS = {
  normSet: /^(norm ?set|set|norms)$/u,
  ratio: /^(ratio|pair)$/u,
  normMean: /^(norm ?)?mean$/u,
  cvPct: /^(cv|cv ?pct|cv ?%|variation)$/u,
  nSamples: /^(n|n ?samples|samples)$/u,
  units: /^units?$/u,
  crop: /^crop$/u,
  part: /^(part|organ)$/u,
  stage: /^(stage|bbch)$/u,
  source: /^source$/u,
  confidence: /^confidence$/u,
} as const;
type Column = keyof typeof COLUMNS;
const plain = (text: string): string =>
  text
    .trim()
    .toLowerCase()
    .replaceAll(/[\s_-]+/gu, ' ');
const MG_KG_OF_PCT = 10_000;
const unitOf = (text: string): '%' | 'mg/kg' | null =>
  text === '%' ? '%' : /^(mg ?\/? ?kg|ppm)$/u.test(text) ? 'mg/kg' : null;
/**
 * What makes a mean of such units one in the units of the ranges; null where nobody can tell. A pair of
 * one unit is the same in any.
 */
function toCore(a: string, b: string, units: string): number | null {
  const [coreA, coreB] = [tissueNutrientOf(a).coreUnit, tissueNutrientOf(b).coreUnit];
  if (coreA === coreB) return 1;
  const said = /^(%|mg ?\/? ?kg|ppm) ?(?:\/|:|per) ?(%|mg ?\/? ?kg|ppm)$/u.exec(plain(units));
  const [first, second] = [unitOf(said?.[1] ?? ''), unitOf(said?.[2] ?? '')];
  if (first === null || second === null) return null;
  const scale = (unit: string, core: string) =>
    unit === core ? 1 : core === '%' ? 1 / MG_KG_OF_PCT : MG_KG_OF_PCT;
  return scale(first, coreA) / scale(second, coreB);
}
const CONFIDENCE = ['low', 'medium', 'high'] as const;

/**
 * Reads a table of norms. A row comes in whole or stays out with its reason: no variation, one that
 * is 0 or above 100 %, another crop, part or stage, fewer than 50 samples of good crops.
 *
 * @param place crop, part and stage that they are meant for
 * @throws Refusal for a file that is no table or names no ratio, mean and cv
 */
export async function readNorms(bytes: Uint8Array, place: NormPlace): Promise<NormList> {
  const { rows } = await readGrid(bytes);
  const texts = rows.map((r) => ({ row: r.row, cells: r.cells.map((c) => c.text.trim()) }));
  const columnsOf = (cells: readonly string[]) =>
    new Map(
      (Object.keys(COLUMNS) as Column[]).flatMap((c) => {
        const k = cells.findIndex((cell) => COLUMNS[c].test(plain(cell)));
        return k < 0 ? [] : [[c, k] as const];
      }),
    );
  const head = texts.findIndex(({ cells }) => {
    const c = columnsOf(cells);
    return c.has('ratio') && c.has('normMean') && c.has('cvPct');
  });
  if (head < 0)
    refuse(
      'missing',
      'file',
      'No row names ratio, mean and cv. Norms have a row a pair of nutrients: norm_set, ratio (N/P), mean, cv (%), n, source, confidence; without the variation no balance can be told.',
      { allowed: 'norm_set, ratio, mean, cv, n, units, crop, part, stage, source, confidence' },
    );
  const columns = columnsOf(texts[head]?.cells ?? []);
  const body = texts.slice(head + 1).filter(({ cells }) => cells.some((c) => c !== ''));
  const at = (cells: readonly string[], column: Column): string =>
    cells[columns.get(column) ?? -1] ?? '';
  const { mark } = markOf(body.flatMap(({ cells }) => [at(cells, 'normMean'), at(cells, 'cvPct')]));
  const figure = (text: string): number | null => {
    const f = readFigure(text, mark ?? '.');
    return f.kind === 'value' ? f.value : null;
  };
  const list: NormList = { norms: [], left: [] };
  const seen = new Set<string>();
  for (const { row, cells } of body) {
    const ratio = at(cells, 'ratio').replaceAll(' ', '');
    const out = (reason: string) => list.left.push({ row, text: ratio, reason });
    const [a, b] = ratio.split('/');
    if (!a || !b || a === b || ![a, b].every((x) => tissueNutrients().includes(x))) {
      out('the pair is not two nutrients, such as N/P');
      continue;
    }
    const said = { crop: at(cells, 'crop'), part: at(cells, 'part'), stage: at(cells, 'stage') };
    const meets = (text: string, ...names: string[]) =>
      text === '' || names.some((n) => plain(n) === plain(text));
    if (!meets(said.crop, place.cropKey, place.cropName)) {
      out(`it is of another crop: ${said.crop}`);
      continue;
    }
    if (!meets(said.part, place.part, place.partLabel)) {
      out(`it is of another part: ${said.part}`);
      continue;
    }
    const stage = /^(\d{1,2})(?:\D+(\d{1,2}))?$/u.exec(said.stage);
    const [from, to] = stage
      ? [Number(stage[1]), Number(stage[2] ?? stage[1])]
      : [place.bbchFrom, place.bbchTo];
    if (said.stage !== '' && (!stage || to < place.bbchFrom || from > place.bbchTo)) {
      out(`it is of another stage: ${said.stage}, here BBCH ${place.bbchFrom}-${place.bbchTo}`);
      continue;
    }
    const twoWays = [at(cells, 'normMean'), at(cells, 'cvPct')].find(
      (t) => mark === null && /\d[.,'’ ]\d/u.test(t),
    );
    if (twoWays !== undefined) {
      out(`${twoWays} can be read two ways: write it without groups, with a point`);
      continue;
    }
    const cvPct = figure(at(cells, 'cvPct'));
    const normMean = figure(at(cells, 'normMean'));
    const n = at(cells, 'nSamples');
    const nSamples = n === '' ? null : figure(n);
    if (cvPct === null || cvPct <= 0 || cvPct > 100) {
      out(`its variation ${at(cells, 'cvPct') || 'is missing'}: above 0 and up to 100 % is needed`);
      continue;
    }
    if (normMean === null || normMean <= 0) {
      out(`its mean ${at(cells, 'normMean') || 'is missing'}: a number above 0 is needed`);
      continue;
    }
    const units = at(cells, 'units');
    const factor = toCore(a, b, units);
    if (factor === null) {
      out(
        `${ratio} is of % and of mg/kg: ${units === '' ? 'say its units' : `${units} is neither`}, such as %/mg/kg or mg/kg/mg/kg`,
      );
      continue;
    }
    if (n !== '' && (nSamples === null || nSamples < ENOUGH_FOR_NORMS)) {
      out(`${n} samples are too few: at least ${ENOUGH_FOR_NORMS}, better 200`);
      continue;
    }
    const confidence = plain(at(cells, 'confidence'));
    const norm = {
      normSet: at(cells, 'normSet') || 'norms',
      cropKey: place.cropKey,
      setId: place.setId,
      part: place.part,
      bbchFrom: Math.max(from, place.bbchFrom),
      bbchTo: Math.min(to, place.bbchTo),
      ratio,
      normMean: normMean * factor,
      cvPct,
      nSamples,
      source: at(cells, 'source'),
      // What does not say how sure it is, is not.
      confidence: CONFIDENCE.find((c) => c === confidence) ?? 'low',
    } satisfies NormList['norms'][number];
    const fits = leafNorm.omit({ by: true, on: true }).safeParse(norm);
    if (!fits.success) {
      const [first] = fits.error.issues;
      out(`${first?.path.join('.') === 'source' ? 'its source is missing' : first?.message}`);
      continue;
    }
    const key = `${norm.normSet} ${[a, b].toSorted().join(' ')}`;
    if (seen.has(key)) {
      out('this pair stands twice');
      continue;
    }
    seen.add(key);
    list.norms.push(fits.data);
  }
  return list;
}
