import type { OwnClimate } from '../document/farmTerms';
import { readGrid } from '../laboratory/grid';
import { refuse } from '../quantity/refusal';
import { rangeProblem } from '../quantity/range';

// Twelve months of a farm's own place, out of whatever table its weather station gives.

type Column = 'month' | 'tMeanC' | 'tMaxC' | 'tMinC' | 'rainMm' | 'et0Mm';
/** What a heading says; the first that fits is meant, so the narrower ones stand first. */
const HEADINGS: readonly [Column, RegExp][] = [
  ['month', /^(month|monat|mois|mes|mese|maand|man|manad|m)\b/u],
  ['et0Mm', /evap|\bet0?\b|\betp\b|\beto\b|verdunst/u],
  ['rainMm', /rain|precip|prec\b|nieder|pluie|lluv|piogg|neerslag|nederb|chuva/u],
  ['tMaxC', /max/u],
  ['tMinC', /min/u],
  ['tMeanC', /temp|mean|avg|mittel|moyen|media|°c|^t\b/u],
];
const MONTHS: readonly RegExp[] = [
  /^(0?1|jan|ene|gen)/u,
  /^(0?2(?!\d)|feb|fev)/u,
  /^(0?3(?!\d)|mar|mrz|maa)/u,
  /^(0?4(?!\d)|apr|avr|abr)/u,
  /^(0?5(?!\d)|may|mai|mag|mei|maj)/u,
  /^(0?6(?!\d)|jun|juin|giu)/u,
  /^(0?7(?!\d)|jul|juil|lug)/u,
  /^(0?8(?!\d)|aug|aou|ago)/u,
  /^(0?9(?!\d)|sep|set)/u,
  /^(10|oct|okt|ott|out)/u,
  /^(11|nov)/u,
  /^(12|dec|dez|dic)/u,
];
const RANGES = {
  tMeanC: { label: 'Mean temperature', unit: '°C', min: -40, max: 45 },
  tMaxC: { label: 'Mean of the days’ highest', unit: '°C', min: -40, max: 55 },
  tMinC: { label: 'Mean of the days’ lowest', unit: '°C', min: -50, max: 45 },
  rainMm: { label: 'Rain', unit: 'mm', min: 0, max: 1500 },
  et0Mm: { label: 'Evaporation', unit: 'mm', min: 0, max: 400 },
} as const;

/** Accents tell no two words apart here. */
const plain = (text: string): string =>
  text.trim().toLowerCase().normalize('NFD').replaceAll(/\p{M}/gu, '');
const figure = (text: string): number | null => {
  const t = text.trim().replace(/\s|°c|mm/giu, '');
  if (t === '') return null;
  const v = Number(/^-?\d+,\d+$/u.test(t) ? t.replace(',', '.') : t);
  return Number.isFinite(v) ? v : NaN;
};
/** Headings that say °F or inches are taken at their word. */
const inCore = (column: keyof typeof RANGES, v: number, heading: string): number => {
  const words = heading.toLowerCase();
  if (column === 'rainMm' || column === 'et0Mm')
    return /\bin(ch|ches)?\b|"/u.test(words) ? Number((v * 25.4).toFixed(1)) : v;
  return /°\s*f\b|\(f\)|fahrenheit|_f\b/u.test(words) ? Number(((v - 32) / 1.8).toFixed(2)) : v;
};
/** October, 10, 2020-10 and Okt are one month; 1 to 12, or 0 where it is none. */
function monthNumber(text: string): number {
  const t = plain(text);
  const dated = /^\d{4}-(\d{2})\b/u.exec(t);
  if (dated) return Number(dated[1]);
  if (/^\d{1,2}$/u.test(t)) return Number(t) <= 12 ? Number(t) : 0;
  return MONTHS.findIndex((m) => m.test(t)) + 1;
}

/**
 * Monthly normals out of a table of twelve rows: month, mean temperature (or highest and lowest),
 * rain, and evaporation where it is known. The headings are read in several languages.
 *
 * @param name what the farm calls its climate
 * @throws Refusal naming the month and figure that is missing or cannot be
 */
export async function readClimate(bytes: Uint8Array, name: string): Promise<OwnClimate> {
  const { rows } = await readGrid(bytes);
  const texts = rows.map((r) => r.cells.map((c) => c.text));
  const columnsOf = (cells: readonly string[]) => {
    const found = new Map<Column, number>();
    cells.forEach((cell, i) => {
      const words = plain(cell);
      const hit = HEADINGS.find(([, words_]) => words_.test(words));
      if (hit && !found.has(hit[0])) found.set(hit[0], i);
    });
    return found;
  };
  const head = texts.findIndex((cells) => {
    const c = columnsOf(cells);
    return c.has('rainMm') && (c.has('tMeanC') || (c.has('tMaxC') && c.has('tMinC')));
  });
  if (head < 0)
    refuse(
      'missing',
      'file',
      'No row names temperature and rain: a table with month, mean temperature in °C, rain in mm and, where known, evaporation in mm is read.',
      { allowed: 'month, temperature, rain, evaporation' },
    );
  const columns = columnsOf(texts[head] ?? []);
  const months = new Map<number, OwnClimate['months'][number]>();
  texts.slice(head + 1).forEach((cells, k) => {
    const said = columns.get('month');
    const month = said === undefined ? k + 1 : monthNumber(cells[said] ?? '');
    if (month < 1 || month > 12) return;
    const read = (column: keyof typeof RANGES): number | null => {
      const at = columns.get(column);
      if (at === undefined) return null;
      const typed = figure(cells[at] ?? '');
      const v = typed === null ? null : inCore(column, typed, texts[head]?.[at] ?? '');
      if (v === null) return null;
      const problem = Number.isNaN(v)
        ? `${RANGES[column].label} = ${cells[at]} is no number`
        : rangeProblem(RANGES[column].label, v, RANGES[column]);
      if (problem)
        refuse('out_of_range', 'file', `Month ${month}: ${problem}.`.replace('..', '.'), {
          value: cells[at],
          allowed: `${RANGES[column].min} to ${RANGES[column].max} ${RANGES[column].unit}`,
        });
      return v;
    };
    const [mean, high, low, rain] = [read('tMeanC'), read('tMaxC'), read('tMinC'), read('rainMm')];
    const tMeanC = mean ?? (high !== null && low !== null ? (high + low) / 2 : null);
    if (tMeanC === null || rain === null)
      refuse('missing', 'file', `Month ${month}: temperature or rain is missing.`, {
        allowed: 'both, for twelve months',
      });
    if (months.has(month))
      refuse('inconsistent', 'file', `Month ${month} stands twice.`, { value: month });
    months.set(month, {
      tMeanC: Number(tMeanC.toFixed(1)),
      tRangeC: high !== null && low !== null ? Number((high - low).toFixed(1)) : null,
      rainMm: rain,
      et0Mm: read('et0Mm'),
    });
  });
  const missing = Array.from({ length: 12 }, (_, i) => i + 1).filter((m) => !months.has(m));
  if (missing.length > 0)
    refuse('missing', 'file', `Months ${missing.join(', ')} are not in the table.`, {
      allowed: 'twelve months',
    });
  return {
    name,
    months: Array.from({ length: 12 }, (_, i) => months.get(i + 1) as OwnClimate['months'][number]),
  };
}
