import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { legumeOf, modifierOf, type Legume, type LegumeModifier } from '../book/legumes';
import { entered, fromTable, step, type Step } from '../why/step';

export type StandClass = 'good' | 'fair' | 'poor';
export interface LegumeInput {
  legumeKey: string;
  /** The class that somebody claims; counts override it downwards. */
  standClass?: string | null;
  plantsM2?: number | null;
  stemsM2?: number | null;
  /** Share of ground covered (hay) or of dry matter (ley), %. */
  legumeCoverPct?: number | null;
  regrowth?: string | null;
  removedFracTops?: number | null;
  texture?: string | null;
  killTiming?: string | null;
  tillage?: string | null;
  climate?: string | null;
  standAge?: string | null;
  yearsSinceKill?: number | null;
}
export interface LegumeCredit {
  standClass: StandClass | 'any' | 'failed';
  /** Class that the counts support; null without counts. */
  derivedClass: StandClass | 'failed' | null;
  topsLeft: number;
  creditKgHa: number;
  year1KgHa: number;
  assumed: string[];
  why: Step;
}

const ORDER: readonly (StandClass | 'failed')[] = ['failed', 'poor', 'fair', 'good'];
const band = (x: number, fair: number, good: number, goodIncluded = true): StandClass =>
  x > good || (goodIncluded && x === good) ? 'good' : x >= fair ? 'fair' : 'poor';
const CREDIT_CAP_KG_HA = 200;

function derivedClass(row: Legume, i: LegumeInput): StandClass | 'failed' | null {
  const found: (StandClass | 'failed')[] = [];
  if (row.countedByPlants) {
    if (i.plantsM2 != null)
      found.push(band(within('plants_m2', i.plantsM2, RANGES.plantsM2), 16, 43));
    if (i.stemsM2 != null)
      found.push(band(within('stems_m2', i.stemsM2, RANGES.plantsM2), 430, 590));
  }
  if (i.legumeCoverPct != null) {
    const cover = within('legume_cover_pct', i.legumeCoverPct, RANGES.legumeCoverPct);
    if (cover < 10) found.push('failed');
    else if (row.useType === 'ley') found.push(band(cover, 20, 40));
    else if (row.useType === 'perennial_hay') found.push(band(cover, 30, 70, false));
  }
  return found.length === 0
    ? null
    : found.reduce((low, c) => (ORDER.indexOf(c) < ORDER.indexOf(low) ? c : low));
}

function topsLeft(row: Legume, i: LegumeInput, assumed: string[]): number {
  const removed = within('removed_frac_tops', i.removedFracTops ?? 0, {
    ...RANGES.share,
    label: 'Share of tops carried off',
  });
  if (row.useType === 'grain_legume') return row.creditTopsKgHa > 0 ? 1 - removed : 0;
  const perennial = row.useType === 'perennial_hay' || row.useType === 'ley';
  if (!perennial) return 1 - removed;
  if (i.regrowth) return modifierOf('regrowth', i.regrowth).factorYear1;
  if (removed >= 0.5) return 0;
  assumed.push('regrowth at the kill not known: half of it counted');
  return 0.5;
}

const product = (rows: readonly LegumeModifier[], of: (m: LegumeModifier) => number): number =>
  rows.reduce((f, m) => f * of(m), 1);

/**
 * N that a previous legume leaves to this crop, by table (chapter 1, C5). The lowest of the claimed
 * class and every class that counts
 * support is used; the tops' share that was cut and carried off is not credited.
 *
 * @throws Refusal for an unknown legume or modifier
 * @example creditLegumeTable({ legumeKey: 'sweet_clover', standClass: 'good', killTiming:
 * 'autumn_late', removedFracTops: 0.85 }).creditKgHa // 51.75
 */
export function creditLegumeTable(i: LegumeInput): LegumeCredit {
  const rows = legumeOf(i.legumeKey);
  const first = rows[0] as Legume;
  const assumed: string[] = [];
  const derived = derivedClass(first, i);
  const years = within('years_since_kill', i.yearsSinceKill ?? 1, RANGES.yearsSinceKill);
  const claimed =
    i.standClass ??
    (first.standClass === 'any'
      ? 'any'
      : refuse('missing', 'stand_class', 'stand_class is missing: give good, fair or poor.', {
          allowed: 'good, fair, poor',
        }));
  if (first.standClass !== 'any' && !['good', 'fair', 'poor'].includes(claimed))
    refuse(
      'unknown_id',
      'stand_class',
      `stand_class = ${claimed} is not known: use good, fair or poor.`,
      { value: claimed, allowed: 'good, fair, poor' },
    );
  const used =
    first.standClass === 'any'
      ? 'any'
      : derived !== null && ORDER.indexOf(derived) < ORDER.indexOf(claimed as StandClass)
        ? derived
        : (claimed as StandClass);
  const row = rows.find((r) => r.standClass === used) ?? first;
  const tops = topsLeft(row, i, assumed);
  const perennial = row.useType === 'perennial_hay' || row.useType === 'ley';
  const chosen = (
    name: string,
    given: string | null | undefined,
    fallback: string,
  ): LegumeModifier => {
    if (!given) assumed.push(`${name.replace('_', ' ')}: ${fallback.replaceAll('_', ' ')}`);
    return modifierOf(name, given || fallback);
  };
  const modifiers = [
    chosen('texture', i.texture, 'loam'),
    chosen('kill_timing', i.killTiming, 'spring_early'),
    chosen('tillage', i.tillage, 'inversion'),
    chosen('climate', i.climate, 'warm_or_humid'),
    ...(perennial ? [chosen('stand_age', i.standAge, 'established')] : []),
  ];
  const failed = used === 'failed';
  const left = row.creditRootsKgHa + row.creditTopsKgHa * tops;
  const whole = row.creditRootsKgHa + row.creditTopsKgHa;
  const year1KgHa = failed
    ? 0
    : Math.min(CREDIT_CAP_KG_HA, left * product(modifiers, (m) => m.factorYear1));
  const textureYear2 = modifiers[0]?.factorYear2 ?? 1;
  const carry = modifiers.reduce((sum, m) => sum + m.carryToYear2Frac, 0);
  const byYear = [
    year1KgHa,
    failed
      ? 0
      : row.creditYear2KgHa *
          (whole > 0 ? left / whole : 0) *
          product(modifiers, (m) => m.factorYear2) +
        left * carry * textureYear2,
    failed ? 0 : row.creditYear3KgHa * product(modifiers, (m) => m.factorYear3),
  ];
  const creditKgHa = Math.min(CREDIT_CAP_KG_HA, byYear[Math.floor(years) - 1] ?? 0);
  const id = 'credit.legume';
  return {
    standClass: used,
    derivedClass: derived,
    topsLeft: tops,
    creditKgHa,
    year1KgHa,
    assumed,
    why: step(
      id,
      `${row.name}, ${failed ? 'failed stand' : used === 'any' ? 'grain taken' : `${used} stand`}`,
      creditKgHa,
      'kg/ha',
      {
        formula:
          years < 2
            ? '(roots + tops x share of tops left) x modifiers'
            : `what is left in year ${Math.floor(years)} after the kill`,
        school: 'legume credit by table',
        source: row.source,
        confidence: row.confidence,
        note: [
          `Honest error about +/- 40 kg/ha; the measured-biomass method weighs the stand instead.`,
          ...assumed.map((a) => `Assumed ${a}.`),
        ].join(' '),
        inputs: [
          fromTable(`${id}.roots`, 'Roots and crowns', row.creditRootsKgHa, 'kg/ha', row),
          fromTable(`${id}.tops`, `Tops (${row.topsAssumed})`, row.creditTopsKgHa, 'kg/ha', row),
          step(`${id}.tops_left`, 'Share of tops left', tops, '', {
            source: i.regrowth || i.removedFracTops != null ? 'entered' : 'default',
          }),
          ...(derived
            ? [
                entered(
                  `${id}.derived`,
                  `Class by counts${i.legumeCoverPct != null ? ` (${i.legumeCoverPct} % legume)` : ''}`,
                  derived,
                  '',
                ),
                entered(`${id}.claimed`, 'Class claimed', claimed, ''),
              ]
            : []),
          ...modifiers.map((m) =>
            fromTable(
              `${id}.${m.modifier}`,
              `${m.modifier.replaceAll('_', ' ')}: ${m.level.replaceAll('_', ' ')}`,
              years >= 3 ? m.factorYear3 : years >= 2 ? m.factorYear2 : m.factorYear1,
              '',
              m,
            ),
          ),
        ],
      },
    ),
  };
}

/** Share of a killed stand's N that a later nitrate sample already holds (C12). */
const OVERLAP = {
  none: 0,
  autumn_kill_spring_sample: 0.3,
  kill_4_8_weeks_before_sample: 0.15,
} as const;
export type Overlap = keyof typeof OVERLAP;

/**
 * A legume credit less the part that the spring nitrate sample already counted.
 *
 * @example overlapCredit({ creditKgHa: 110, overlap: 'autumn_kill_spring_sample' }).creditKgHa //
 * 77
 */
export function overlapCredit(i: { creditKgHa: number; overlap: string }): {
  creditKgHa: number;
  s: number;
} {
  within('credit_kg_ha', i.creditKgHa, { label: 'Credit', unit: 'kg/ha', min: 0, max: 2000 });
  const s =
    OVERLAP[i.overlap as Overlap] ??
    refuse(
      'unknown_id',
      'overlap',
      `overlap = ${i.overlap} is not known: use one of ${Object.keys(OVERLAP).join(', ')}.`,
      { value: i.overlap },
    );
  return { creditKgHa: i.creditKgHa * (1 - s), s };
}
