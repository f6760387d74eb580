import type { Book } from '../book/book';
import { clip } from '../quantity/curve';
import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { materialOf, type Material } from '../book/organicMaterials';
import {
  decompositionOf,
  mineralisationOf,
  overwinterRows,
  type Mineralisation,
} from '../book/organicTables';
import { compostRole, decompositionKind, releaseByCToN } from './compost';
import { asConfidence, entered, fromTable, step, type Step } from '../why/step';

/** Thermal time to which the first-year fractions belong, °C d (soil at 10 cm, base 0). */
const TT_YEAR = 3000;
/** Degree-days from spreading to the start of drainage, late autumn (chapter 2, 4.3 step 5). */
const TT_LATE_AUTUMN = 150;
const MEAL_ON_SURFACE = 0.85;

export interface Pools {
  /** Ammonium and uric-acid N, which can evaporate. */
  tan: number;
  uric: number;
  org: number;
}

/**
 * The nitrogen pools of a material, kg/t (chapter 2, 4.1 and 4.3).
 *
 * @param i.klass mineralisation class
 * @throws Refusal M03 or M04 when the parts exceed total N by more than 2 %
 * @example nitrogenPools({ totalN: 30, nh4: 5, no3: 0.3, klass: 'poultry' }) // { tan: 11.175,
 * uric: 6.175, org: 18.525 }
 */
export function nitrogenPools(i: {
  totalN: number;
  nh4: number;
  no3?: number | null;
  klass: string;
  uricN?: number | null;
}): Pools {
  const m = mineralisationOf(i.klass);
  const KG_T = { label: 'Nitrogen', unit: 'kg/t', min: 0, max: 250 };
  const total = within('total_n', i.totalN, KG_T);
  const nh4 = within('nh4', i.nh4, KG_T);
  const no3 = within('no3', i.no3 ?? 0, KG_T);
  if (m.ammoniumBound) return { tan: 0, uric: 0, org: total };
  const rest = total - nh4 - no3;
  if (rest < -0.02 * total) {
    const id = nh4 > total * 1.02 ? 'M03' : 'M04';
    refuse(
      'inconsistent',
      'nh4',
      `${id}: ammonium-N ${nh4}${no3 ? ` and nitrate-N ${no3}` : ''} kg/t exceed total N ${total} kg/t. Check units, NH4 against NH4-N, dry against as received.`,
      { value: nh4, allowed: `at most ${total}`, rule: id },
    );
  }
  const organic = Math.max(0, rest);
  const uric = i.uricN ?? m.uricShareOfOrgNFrac * organic;
  return { tan: nh4 + uric, uric, org: Math.max(0, organic - uric) };
}

/**
 * Share of organic N that the first crop gets, moved by the laboratory's C:N (chapter 2, 4.3 step
 * 3).
 *
 * @example firstYearFraction({ klass: 'cattle_solid', cnBook: 16, cnLab: 12 }) // 0.28
 */
export function firstYearFraction(i: {
  klass: string;
  cnBook?: number | null;
  cnLab?: number | null;
}): number {
  const m = mineralisationOf(i.klass);
  if (i.cnLab == null || i.cnBook == null) return m.y1Frac;
  const slope = mineralisationOf(i.klass).stabilised ? 0.008 : 0.015;
  return clip(
    m.y1Frac +
      slope * (i.cnBook - within('cn_lab', i.cnLab, { label: 'C:N', unit: '', min: 1, max: 500 })),
    m.y1MinFrac,
    m.y1MaxFrac,
  );
}

const g = (m: Mineralisation, tt: number): number =>
  m.fastShareFrac * (1 - Math.exp(-m.kfPerDegcD * tt)) +
  (1 - m.fastShareFrac) * (1 - Math.exp(-m.ksPerDegcD * tt));

/**
 * Share of organic N released by a thermal time (chapter 2, 4.4); negative while a material ties
 * N up.
 *
 * @param i.tt degree-days of soil at 10 cm, base 0
 * @example releaseFraction({ klass: 'poultry', tt: 840 }) // 0.227
 */
export function releaseFraction(i: { klass: string; tt: number; y1Adj?: number | null }): number {
  const m = mineralisationOf(i.klass);
  const tt = within('tt', i.tt, { label: 'Thermal time', unit: '°C d', min: 0, max: 12000 });
  const y1 = i.y1Adj ?? m.y1Frac;
  return y1 < 0
    ? y1 * (1 - Math.exp(-0.004 * tt) - 0.5 * (1 - Math.exp(-0.0006 * tt)))
    : (y1 * g(m, tt)) / g(m, TT_YEAR);
}

const laterYear = (m: Mineralisation, k: number): number =>
  ({ 2: m.y2Frac, 3: m.y3Frac, 4: m.y4Frac })[k] ?? 0;

/**
 * Release within year k from an earlier application (9.3).
 *
 * @example releaseResidual({ klass: 'cattle_solid', yearK: 2, tt: 1500 }) // 0.0711
 */
export function releaseResidual(i: { klass: string; yearK: number; tt: number }): number {
  const m = mineralisationOf(i.klass);
  return (
    (laterYear(m, i.yearK) * (1 - Math.exp(-m.ksPerDegcD * i.tt))) /
    (1 - Math.exp(-m.ksPerDegcD * TT_YEAR))
  );
}

/** Laboratory values of a load; what is missing falls back to the book, one by one. */
export interface LabAnalysis {
  totalNKgT?: number | null;
  nh4NKgT?: number | null;
  no3NKgT?: number | null;
  pKgT?: number | null;
  kKgT?: number | null;
  sKgT?: number | null;
  dmPct?: number | null;
  cToN?: number | null;
}
export interface Analysis {
  totalNKgT: number;
  nh4NKgT: number;
  no3NKgT: number;
  pKgT: number;
  kKgT: number;
  sKgT: number;
  dmPct: number;
  /** Nutrients that still come from the book. */
  fromBook: string[];
}

/**
 * The analysis to reckon with: laboratory values, and the book for the rest. Blank ammonium takes
 * the book SHARE of the laboratory's total N.
 */
export function analysisOf(material: Material, lab: LabAnalysis | null | undefined): Analysis {
  const fromBook: string[] = [];
  const take = (name: string, value: number | null | undefined, fallback: number) =>
    value == null ? (fromBook.push(name), fallback) : value;
  const totalNKgT = take(
    'N',
    lab?.totalNKgT,
    lab?.nh4NKgT != null ? material.totalNKgT - material.nh4NKgT + lab.nh4NKgT : material.totalNKgT,
  );
  const nh4NKgT =
    lab?.nh4NKgT ??
    (material.totalNKgT > 0 ? (material.nh4NKgT / material.totalNKgT) * totalNKgT : 0);
  if (lab?.nh4NKgT == null) fromBook.push('ammonium');
  return {
    totalNKgT,
    nh4NKgT,
    no3NKgT: lab?.no3NKgT ?? (lab?.totalNKgT != null ? 0 : material.no3NKgT),
    pKgT: take('P', lab?.pKgT, material.pKgT),
    kKgT: take('K', lab?.kKgT, material.kKgT),
    sKgT: take('S', lab?.sKgT, material.sKgT),
    dmPct: take('dry matter', lab?.dmPct, material.dmPct),
    fromBook,
  };
}

/**
 * Share of mineral N that a winter leaves (chapter 2, 4.2), with the row that says so.
 *
 * @param covered a well-grown cover crop or oilseed rape stood over winter: the next lower class of
 *   drainage counts (low stays low)
 * @example overwinterKept('loam', 200)?.retainedMineralNFrac // 0.60; under a cover crop 0.85
 */
export const overwinterKept = (
  texture: 'sand' | 'loam' | 'clay' | 'organic',
  drainageMm: number,
  covered = false,
) => {
  const rows = overwinterRows()
    .filter((r) => r.textureGroup === (texture === 'organic' ? 'loam' : texture))
    .sort((a, b) => a.drainageMmFrom - b.drainageMmFrom);
  const at = rows.findIndex(
    (r) =>
      drainageMm >= r.drainageMmFrom && (r.drainageMmTo === null || drainageMm < r.drainageMmTo),
  );
  return rows[covered ? Math.max(0, at - 1) : at];
};

const NITRIFIED_TT = { plain: 350, inhibited: 700 } as const;
/**
 * Share of a dressing's ammonium that a nitrate test cannot see yet, because it is still ammonium
 * (chapter 2, 4.2; consensus, low).
 *
 * @param tt degree-days of soil (base 0) from spreading to sampling
 * @example notYetNitrate(140, false) // 0.6
 */
export const notYetNitrate = (tt: number, inhibitor: boolean): number =>
  Math.max(
    0,
    1 -
      within('sample_tt', tt, {
        label: 'Thermal time to the nitrate sample',
        unit: '°C d',
        min: 0,
        max: 12_000,
      }) /
        (inhibitor ? NITRIFIED_TT.inhibited : NITRIFIED_TT.plain),
  );

export interface PanInput {
  mat: string;
  retainedFrac: number;
  lab?: LabAnalysis | null;
  season?: string | null;
  ow?: number | null;
  ttPre?: number | null;
  ttEnd?: number | null;
  climateFactor?: number | null;
  mealOnSurface?: boolean | null;
  /** Left on top as a mulch: a material that ties N up takes it only from its contact layer. */
  onSurface?: boolean | null;
  /** A compost that its tests call immature rots faster. */
  immature?: boolean | null;
  /**
   * Degree-days from spreading to a nitrate test that the budget credits; null where no test
   * followed.
   */
  sampleTt?: number | null;
  inhibitor?: boolean | null;
}
export interface PlantAvailableN {
  tanKgT: number;
  orgNKgT: number;
  y1Eff: number;
  mineralKeptKgT: number;
  panKgT: number;
  /** A nitrate test taken since holds part of it. */
  tested: boolean;
  why: Step;
}

/** What ties N up is reckoned by a measured C:N (chapter 2, 4.3 step 6). */
const rotsByCToN = (klass: string, a: Analysis, cToN: number | null | undefined): boolean =>
  cToN != null &&
  (mineralisationOf(klass).tiesUp ||
    compostRole({
      cn: cToN,
      nPctDm: a.dmPct > 0 ? Math.min(20, (a.totalNKgT / a.dmPct) * 10) : 0,
    }) === 'tie_up');

/**
 * Share of the organic N that the first crop year gives in all, and how much of it a nitrate test
 * since then has seen.
 */
function firstYearShare(
  i: PanInput,
  m: Mineralisation,
  y1: number,
  ow: number,
  onTop: number,
): { all: number; seen: number } {
  const klass = m.mineralisationClass;
  const inTime = (tt: number) => releaseFraction({ klass, tt, y1Adj: y1 });
  const autumn = i.season === 'autumn';
  const ttPre = i.ttPre ?? TT_LATE_AUTUMN;
  const climate =
    i.climateFactor == null ? 1 : within('climate_factor', i.climateFactor, RANGES.climateFactor);
  // Of an autumn dressing the test has seen what came before the winter (4.2); of one in spring,
  // what came until the sampling.
  const seenTt =
    i.sampleTt == null ? 0 : Math.min(i.sampleTt, autumn ? ttPre : (i.ttEnd ?? Infinity));
  // Of a tie-up half comes back with time (4.4 step 4): what is left of it by then counts.
  if (y1 <= 0)
    return { all: (i.ttEnd == null ? y1 : inTime(i.ttEnd)) * onTop, seen: inTime(seenTt) * onTop };
  const surface = i.mealOnSurface && m.dryMeal ? MEAL_ON_SURFACE : 1;
  const warmth = (i.ttEnd == null ? climate : 1) * surface;
  const end = i.ttEnd == null ? y1 : inTime(i.ttEnd);
  const all = autumn ? inTime(ttPre) * ow + end - inTime(ttPre) : end;
  return { all: all * warmth, seen: Math.min(all, inTime(seenTt) * ow) * warmth };
}

/**
 * Plant-available N of a material in its first crop year, kg/t (chapter 2, 4.3): the ammonium that
 * stayed, plus what the organic part
 * releases. Negative when the material ties N up. What a later nitrate test holds already is left
 * out (4.2).
 *
 * @throws Refusal N10 when thermal time and a climate factor are both given
 * @example plantAvailableN(PRINTED, { mat: 'dairy_slurry_medium', retainedFrac: 0.7222 }).panKgT
 * // 1.217 kg/t
 */
export function plantAvailableN(book: Book, i: PanInput): PlantAvailableN {
  const material = materialOf(book, i.mat);
  if (i.ttEnd != null && i.climateFactor != null)
    refuse(
      'inconsistent',
      'climate_factor',
      'N10: climate factor and thermal time would count temperature twice. Keep only thermal time.',
      { value: i.climateFactor, rule: 'N10' },
    );
  const retained = within('retained_frac', i.retainedFrac, {
    ...RANGES.share,
    label: 'Ammonium kept',
  });
  const autumn = i.season === 'autumn';
  const ow = autumn ? within('ow', i.ow ?? 0.6, { ...RANGES.share, label: 'Kept over winter' }) : 1;
  const a = analysisOf(material, i.lab);
  const klass = material.mineralisationClass;
  const pools = nitrogenPools({ totalN: a.totalNKgT, nh4: a.nh4NKgT, no3: a.no3NKgT, klass });
  const y1 = firstYearFraction({ klass, cnBook: material.cToN, cnLab: i.lab?.cToN });
  const m = mineralisationOf(klass);
  const kind = decompositionOf(decompositionKind(material, i.immature === true));
  const sampled = i.sampleTt ?? null;
  const unseen = sampled === null ? 1 : notYetNitrate(sampled, i.inhibitor === true);
  const released = firstYearShare(i, m, y1, ow, i.onSurface ? kind.surfaceMulchFactor : 1);
  const share = released.all - released.seen;
  const cToN = rotsByCToN(klass, a, i.lab?.cToN) ? (i.lab?.cToN ?? null) : null;
  const rotting =
    cToN === null
      ? null
      : releaseByCToN({
          totalN: a.totalNKgT,
          cToN,
          kind: kind.materialKind,
          nh4N: a.nh4NKgT,
          no3N: a.no3NKgT,
          placement: i.onSurface ? 'surface' : 'mixed',
        }) * (released.all === 0 ? 1 : share / released.all);
  const organicKgT = rotting ?? pools.org * share;
  const y1Eff = rotting === null || pools.org === 0 ? share : rotting / pools.org;
  const mineralKeptKgT =
    sampled === null ? (pools.tan * retained + a.no3NKgT) * ow : pools.tan * retained * ow * unseen;
  const panKgT = mineralKeptKgT + organicKgT;
  const id = 'organics.pan';
  const origin = (name: string) => (a.fromBook.includes(name) ? 'book value' : 'laboratory');
  const notes = [
    a.fromBook.length > 0
      ? `Book values for ${a.fromBook.join(', ')}: real loads differ by 30 to 50 %.`
      : null,
    sampled === null
      ? null
      : `A nitrate test followed ${Math.round(sampled)} °C d after spreading: what it holds is not counted once more.`,
  ].filter((x) => x !== null);
  const organicInputs = [
    step(`${id}.org`, 'Organic N', pools.org, 'kg/t', {
      formula: 'total N - ammonium - nitrate - uric acid',
      inputs: [step(`${id}.total`, 'Total N', a.totalNKgT, 'kg/t', { source: origin('N') })],
    }),
  ];
  return {
    tanKgT: pools.tan,
    orgNKgT: pools.org,
    y1Eff,
    mineralKeptKgT,
    panKgT,
    tested: sampled !== null,
    why: step(id, 'Plant-available N', panKgT, 'kg/t', {
      formula: 'ammonium kept + organic N x first-year share',
      school: 'two pools',
      source: m.source,
      confidence: a.fromBook.length > 0 || sampled !== null ? 'low' : asConfidence(m.confidence),
      note: notes.length > 0 ? notes.join(' ') : undefined,
      inputs: [
        step(`${id}.mineral`, 'Ammonium and nitrate kept', mineralKeptKgT, 'kg/t', {
          formula:
            sampled === null
              ? `(ammonium-N x kept + nitrate-N)${autumn ? ' x kept over winter' : ''}`
              : `ammonium-N x kept${autumn ? ' x kept over winter' : ''} x share still ammonium at the test`,
          inputs: [
            step(`${id}.tan`, 'Ammonium-N (with uric acid)', pools.tan, 'kg/t', {
              source: origin('ammonium'),
            }),
            entered(`${id}.kept`, 'Kept after spreading', retained, 'share'),
            ...(autumn ? [entered(`${id}.ow`, 'Kept over winter', ow, 'share')] : []),
            ...(sampled === null
              ? []
              : [
                  step(`${id}.unseen`, 'Still ammonium at the nitrate test', unseen, 'share', {
                    formula: `1 - ${Math.round(sampled)} °C d / ${i.inhibitor ? NITRIFIED_TT.inhibited : NITRIFIED_TT.plain}`,
                    source: 'chapter 2, 4.2',
                    confidence: 'low',
                  }),
                ]),
          ],
        }),
        rotting === null
          ? step(`${id}.organic`, 'Released by the organic part', organicKgT, 'kg/t', {
              formula: `organic N x first-year share${i.onSurface && y1 < 0 ? `; left on top only the contact layer takes N (x ${kind.surfaceMulchFactor})` : ''}`,
              inputs: [
                ...organicInputs,
                fromTable(
                  `${id}.y1`,
                  sampled === null ? 'First-year share' : 'First-year share after the test',
                  share,
                  'share',
                  m,
                ),
              ],
            })
          : step(`${id}.organic`, 'Taken up or given while it rots', organicKgT, 'kg/t', {
              formula: `share that rots x (organic N - carbon x ${kind.eFrac} / ${kind.cnMicrobe})${i.onSurface ? ` x ${kind.surfaceMulchFactor}: on top only the contact layer takes N` : ''}`,
              source: kind.source,
              confidence: asConfidence(kind.confidence),
              inputs: [...organicInputs, entered(`${id}.cn`, 'C:N of the laboratory', cToN, '')],
            }),
      ],
    }),
  };
}

export interface PastApplication {
  mat: string;
  rateTHa: number;
  /** Crop years since the application + 1: last year's manure is 2. */
  yearK: number;
  lab?: LabAnalysis | null;
}

/**
 * N that manure of earlier years still releases this year (chapter 2, 4.5), kg/ha.
 *
 * @param i.tail yearly share after year 4 (long-memory school, 0 by default)
 * @example residualCredit(PRINTED, { apps: [{ mat: 'beef_bedded_pack_fresh', rateTHa: 40, yearK:
 * 2 }] }).creditKgHa // 19.2
 */
export function residualCredit(
  book: Book,
  i: {
    apps: readonly PastApplication[];
    tail?: number | null;
    climateFactor?: number | null;
  },
): { creditKgHa: number; why: Step } {
  const tail = within('tail', i.tail ?? 0, {
    label: 'Yearly share after year 4',
    unit: '',
    min: 0,
    max: 0.03,
  });
  const parts = i.apps.map((app, k) => {
    const material = materialOf(book, app.mat);
    const m = mineralisationOf(material.mineralisationClass);
    const year = within(`apps[${k}].year_k`, app.yearK, {
      label: 'Crop year',
      unit: '',
      min: 2,
      max: 30,
    });
    const a = analysisOf(material, app.lab);
    const { org } = nitrogenPools({
      totalN: a.totalNKgT,
      nh4: a.nh4NKgT,
      no3: a.no3NKgT,
      klass: material.mineralisationClass,
    });
    const share = year <= 4 ? laterYear(m, year) : year <= 10 ? tail : 0;
    const kg =
      within(`apps[${k}].rate_t_ha`, app.rateTHa, { ...RANGES.rateTHa, min: 0 }) *
      org *
      share *
      (i.climateFactor ?? 1);
    return {
      kg,
      why: step(`credit.manure_residual.${k}`, `${material.name}, year ${year}`, kg, 'kg/ha', {
        formula: 'rate x organic N x share of that year',
        source: m.source,
        confidence: asConfidence(m.confidence),
        inputs: [
          entered(`credit.manure_residual.${k}.rate`, 'Rate', app.rateTHa, 't/ha'),
          step(`credit.manure_residual.${k}.org`, 'Organic N', org, 'kg/t', {
            source: a.fromBook.includes('N') ? 'book value' : 'laboratory',
          }),
          fromTable(`credit.manure_residual.${k}.share`, 'Share of that year', share, 'share', m),
        ],
      }),
    };
  });
  const creditKgHa = parts.reduce((sum, p) => sum + p.kg, 0);
  return {
    creditKgHa,
    why: step('credit.manure_residual', 'Manure of earlier years', creditKgHa, 'kg/ha', {
      formula: 'sum over earlier applications',
      source: 'chapter 2, 4.5',
      confidence: 'medium',
      inputs: parts.map((p) => p.why),
    }),
  };
}

/**
 * Share of the original organic N that a dressing releases between two points of a season (chapter
 * 2, 4.4 step 3 and 9.3): of this crop year by its whole
 * curve, of an earlier one by the slow part alone, which begins anew in spring.
 *
 * @param i.yearK 1 for this crop year, 2 for last year's dressing
 * @example releasedBetween({ klass: 'cattle_solid_stored', yearK: 1, ttFrom: 1400, ttTo: 2600 })
 * // 0.0472
 */
export const releasedBetween = (i: {
  klass: string;
  yearK: number;
  y1Adj?: number | null;
  ttFrom: number;
  ttTo: number;
}): number => {
  const by = (tt: number) =>
    i.yearK < 2
      ? releaseFraction({ klass: i.klass, tt, y1Adj: i.y1Adj })
      : releaseResidual({ klass: i.klass, yearK: i.yearK, tt });
  return by(i.ttTo) - by(i.ttFrom);
};

/**
 * N that a dressing of book analysis releases between two points of the season, for crops that
 * should run short, kg/ha.
 *
 * @example lateRelease(PRINTED, { mat: 'cattle_bedded_pack_stored', rate: 40, ttFrom: 1400, ttTo:
 * 2600 }) // 10.0
 */
export function lateRelease(
  book: Book,
  i: {
    mat: string;
    rate: number;
    ttFrom: number;
    ttTo: number;
  },
): number {
  const material = materialOf(book, i.mat);
  const { org } = nitrogenPools({
    totalN: material.totalNKgT,
    nh4: material.nh4NKgT,
    no3: material.no3NKgT,
    klass: material.mineralisationClass,
  });
  return (
    org *
    within('rate', i.rate, RANGES.rateTHa) *
    releasedBetween({
      klass: material.mineralisationClass,
      yearK: 1,
      ttFrom: i.ttFrom,
      ttTo: i.ttTo,
    })
  );
}

/**
 * Season release of TOTAL N by the dry-matter-N school, %.
 *
 * @example nPctDmRelease({ totalN: 27, dmPct: 90 }) // 30
 */
export const nPctDmRelease = (i: { totalN: number; dmPct: number }): number =>
  clip((15 * i.totalN) / (within('dm_pct', i.dmPct, RANGES.dmPct) / 10) - 15, 0, 75);

const SOIL_PH_P: Record<string, (ph: number) => number> = {
  meal_meat_bone: (ph) => (ph < 6 ? 0.5 : ph <= 7 ? 0.35 : 0.1),
  struvite: (ph) => (ph < 6.5 ? 0.8 : ph <= 7.5 ? 0.7 : 0.5),
};

/** Quick P of biosolids from works that dose iron or aluminium (chapter 2, 5.1). */
const METAL_DOSED = 0.5;

/**
 * P (or K) of an application: the balance for the soil, and the credit for this crop (chapter 2,
 * 5.1). Below the critical soil test only the
 * quick share counts; at or above it replacing off-take needs the total.
 *
 * @example pCredit({ rate: 40, pT: 1.4, klass: 'cattle_solid', belowCritical: true }).creditKgHa
 * // 33.6
 */
export function pCredit(i: {
  rate: number;
  pT: number;
  klass: string;
  belowCritical: boolean;
  soilPh?: number | null;
  nutrient?: 'p' | 'k';
  /** Iron or aluminium was dosed at the works: half of the quick P is held. */
  metalDosed?: boolean | null;
}): { balanceKgHa: number; y1KgHa: number; creditKgHa: number } {
  const m = mineralisationOf(i.klass);
  const [y1, long] =
    i.nutrient === 'k'
      ? [m.kY1Frac, m.kLongFrac]
      : [i.soilPh != null ? (SOIL_PH_P[i.klass]?.(i.soilPh) ?? m.pY1Frac) : m.pY1Frac, m.pLongFrac];
  const total =
    within('rate', i.rate, { ...RANGES.rateTHa, min: 0 }) *
    within('p_t', i.pT, { label: 'Content', unit: 'kg/t', min: 0, max: 500 });
  const balanceKgHa = total * long;
  const held = i.metalDosed === true && i.nutrient !== 'k' ? METAL_DOSED : 1;
  const y1KgHa = total * y1 * held;
  return { balanceKgHa, y1KgHa, creditKgHa: i.belowCritical ? y1KgHa : balanceKgHa };
}
