import { clip } from '../quantity/curve';
import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { ammoniaLevels, ammoniaModifier, spreadingMethodOf } from '../book/organicMaterials';
import { ammoniaKeptRows } from '../book/organicTables';
import { entered, fromTable, step, type Step } from '../why/step';

export interface Covering {
  kind: string;
  hours: number;
}
export interface AmmoniaInput {
  method: string;
  /** Dry matter of a liquid, %; counts between 1 and 10. */
  dmPct?: number | null;
  tempC?: number | null;
  windMS?: number | null;
  soil?: string | null;
  cover?: string | null;
  /** Class of the material: cattle, pig, poultry, digestate or other. */
  klass?: string | null;
  acidified?: boolean | null;
  materialPh?: number | null;
  saltBound?: boolean | null;
  soilPh?: number | null;
  coverings?: readonly Covering[] | null;
}
export interface AmmoniaLoss {
  fInf: number;
  tM: number;
  lossFrac: number;
  retainedFrac: number;
  defaultWeather: boolean;
  why: Step;
}

const SPECIES = ['cattle', 'pig', 'poultry', 'digestate'];

const levelOf = (key: string, level: string, field: string): number =>
  ammoniaModifier(key, level)?.value ??
  refuse(
    'unknown_id',
    field,
    `${field} = ${level} is not known: use one of ${ammoniaLevels(key).join(', ')}.`,
    { value: level },
  );

function coverFactor(method: string, cover: string): number {
  levelOf('m_cover', cover, 'cover');
  const { placed } = spreadingMethodOf(method);
  const splashed = placed === 'splash' || placed === 'sprinkled';
  if (cover === 'crop_canopy_20_cm_or_more') return placed === 'banded' ? 0.8 : splashed ? 1.15 : 1;
  return splashed ? levelOf('m_cover', cover, 'cover') : 1;
}

function phFactor(i: AmmoniaInput): number {
  if (i.saltBound || (i.materialPh != null && i.materialPh < 5.5)) {
    const onLime = spreadingMethodOf(i.method).placed !== 'injected' && (i.soilPh ?? 0) > 7.5;
    return levelOf(
      'm_ph',
      onLime ? 'acid_or_salt_bound_on_soil_ph_over_7_5' : 'acid_or_salt_bound',
      'material_ph',
    );
  }
  return (i.materialPh ?? 0) > 8.5 ? levelOf('m_ph', 'ph_over_8_5', 'material_ph') : 1;
}

/** Sorted by hour; of two at the same hour the stronger one counts once. */
function inOrder(coverings: readonly Covering[]): { hours: number; rate: number; kind: string }[] {
  const read = coverings.map((c, k) => ({
    kind: c.kind,
    hours: within(
      k === 0 ? 'hours_to_incorporation' : `coverings[${k}].hours`,
      c.hours,
      RANGES.hours,
    ),
    rate: levelOf('r_event', c.kind, 'covering'),
  }));
  const sorted = read.sort((a, b) => a.hours - b.hours || a.rate - b.rate);
  return sorted.filter((c, k) => k === 0 || c.hours !== sorted[k - 1]?.hours);
}

/**
 * Share of the ammonium lost as ammonia after spreading, and the share kept (chapter 2, 4.1; shape
 * after Sogaard et al. 2002, levels
 * consensus). Expect +/- 40 % of the loss on one day and field.
 *
 * @param i.coverings what covered it, with hours after spreading; ploughing, discing, harrowing,
 * soaking rain
 * @throws Refusal for a negative hour, an unknown method or covering
 * @example ammoniaLoss({ method: 'splash_low', coverings: [{ kind: 'disc_or_cultivator_10_15_cm',
 * hours: 4 }] }).retainedFrac // 0.722
 */
export function ammoniaLoss(i: AmmoniaInput): AmmoniaLoss {
  const method = spreadingMethodOf(i.method);
  const temp = clip(within('temp_c', i.tempC ?? 15, RANGES.tempC), 0, 35);
  const wind = clip(within('wind_m_s', i.windMS ?? 3, RANGES.windMS), 0, 10);
  const liquid = method.group === 'liquid';
  const factors: [string, number][] = [
    [
      'Dry matter',
      liquid ? 1.1 ** (clip(within('dm_pct', i.dmPct ?? 6, RANGES.dmPct), 1, 10) - 6) : 1,
    ],
    [
      'Kind of livestock',
      liquid
        ? levelOf(
            'm_species',
            SPECIES.includes(i.klass ?? 'cattle') ? (i.klass ?? 'cattle') : 'other',
            'klass',
          )
        : 1,
    ],
    ['Temperature', 1.022 ** (temp - 15)],
    ['Wind', 1.04 ** (wind - 3)],
    ['Soil surface', levelOf('m_soil', i.soil ?? 'moist', 'soil')],
    ['Ground cover', liquid ? coverFactor(i.method, i.cover ?? 'bare') : 1],
    ['Acidified', liquid && i.acidified ? levelOf('m_acid', 'acidified_to_ph_6', 'acidified') : 1],
    ['pH of the material', phFactor(i)],
  ];
  const fInf = clip(
    factors.reduce((f, [, x]) => f * x, method.fRefFrac),
    0.01,
    0.95,
  );
  const tM = clip(method.tmRefH * 0.96 ** (temp - 15) * 0.95 ** (wind - 3), 0.5, 200);
  const gone = (hours: number) => (hours === Infinity ? 1 : hours / (hours + tM));
  const events = inOrder(i.coverings ?? []);
  const bounds = [0, ...events.map((e) => e.hours), Infinity];
  let rate = 1;
  let share = 0;
  for (let k = 0; k < bounds.length - 1; k++) {
    if (k > 0) rate *= events[k - 1]?.rate ?? 1;
    share += rate * (gone(bounds[k + 1] as number) - gone(bounds[k] as number));
  }
  const lossFrac = fInf * share;
  const defaultWeather = i.tempC == null || i.windMS == null;
  const id = 'organics.ammonia';
  return {
    fInf,
    tM,
    lossFrac,
    retainedFrac: 1 - lossFrac,
    defaultWeather,
    why: step(id, 'Ammonium lost to the air', lossFrac, 'share', {
      formula: 'final loss x share of it that escapes before and after covering',
      source: method.source,
      confidence: method.confidence,
      school: 'ammonia curve with weather',
      note: `About +/- 40 % on one day and field.${defaultWeather ? ' Weather not known: 15 °C, 3 m/s.' : ''}`,
      inputs: [
        step(`${id}.final`, 'Final loss if never covered', fInf, 'share', {
          formula: `${method.name} x factors, between 0.01 and 0.95`,
          inputs: [
            fromTable(`${id}.method`, method.name, method.fRefFrac, 'share', method),
            ...factors
              .filter(([, x]) => x !== 1)
              .map(([label, x], k) =>
                step(`${id}.factor${k}`, label, x, 'factor', { source: 'chapter 2, 4.1' }),
              ),
          ],
        }),
        step(`${id}.tm`, 'Hours to half of it', tM, 'h', {
          formula: 'method hours x 0.96^(T - 15) x 0.95^(wind - 3)',
        }),
        ...(events.length === 0
          ? [step(`${id}.uncovered`, 'Never covered', 1, 'share', { source: 'entered' })]
          : events.map((e, k) =>
              entered(
                `${id}.cover${k}`,
                `${e.kind.replaceAll('_', ' ')} after`,
                e.hours,
                'h',
                `${e.rate * 100} % of the emission goes on`,
              ),
            )),
      ],
    }),
  };
}

/**
 * Ammonium kept by the simple table that many nutrient-plan forms use (the other school; no
 * weather).
 *
 * @param i.hours to incorporation; null for never
 * @example ammoniaKeptTable({ group: 'liquid', dmPct: 6, placement: 'surface', hours: 6 }) // 0.6
 */
export function ammoniaKeptTable(i: {
  group: string;
  dmPct?: number | null;
  placement: string;
  hours?: number | null;
}): number {
  const dm = i.dmPct ?? 6;
  const hours = i.hours == null ? Infinity : within('hours', i.hours, RANGES.hours);
  const row = ammoniaKeptRows().find(
    (r) =>
      r.group === i.group &&
      r.placement === i.placement &&
      (r.dmBand === 'any' || (r.dmBand === 'under_4_pct' ? dm < 4 : dm >= 4)) &&
      hours >= r.hoursToIncorporationFrom &&
      (r.hoursToIncorporationTo === null || hours < r.hoursToIncorporationTo),
  );
  return (
    row?.retainedFrac ??
    refuse('unknown_id', 'placement', `No row for ${i.group} by ${i.placement}.`, {
      value: i.placement,
    })
  );
}

/**
 * Loss of a spreading technique by the simple table: the school of plan forms, blind to weather.
 * Tillage covers; rain and irrigation do not.
 *
 * @example ammoniaLossByTable({ method: 'splash_low', dmPct: 6, coverings: [{ kind:
 * 'plough_inversion', hours: 6 }] }).lossFrac // 0.4
 */
export function ammoniaLossByTable(i: {
  method: string;
  dmPct?: number | null;
  coverings?: readonly Covering[] | null;
}): Pick<AmmoniaLoss, 'lossFrac' | 'retainedFrac' | 'defaultWeather' | 'why'> {
  const method = spreadingMethodOf(i.method);
  const tilled = inOrder((i.coverings ?? []).filter((c) => isTillage(c.kind)))[0];
  // A covered band is closed by the pass itself.
  const hours = method.placed === 'covered_band' ? 0 : (tilled?.hours ?? null);
  const retainedFrac = ammoniaKeptTable({
    group: method.group,
    dmPct: i.dmPct,
    placement: method.simpleTable,
    hours,
  });
  return {
    lossFrac: 1 - retainedFrac,
    retainedFrac,
    defaultWeather: false,
    why: step('organics.ammonia', 'Ammonium lost to the air', 1 - retainedFrac, 'share', {
      formula: `1 - kept share of the table for ${method.name}, ${hours === null ? 'never worked in' : `worked in after ${hours} h`}`,
      school: 'simple table, no weather',
      source: 'chapter 2, simple_table',
      confidence: 'medium',
    }),
  };
}
/** Whether a covering works the dressing into the soil; rain and irrigation only wash it in. */
export const isTillage = (kind: string): boolean =>
  !kind.startsWith('rain') && !kind.startsWith('irrigation');

/**
 * What a skipped or late incorporation cost (rule N01).
 *
 * @example lateIncorporationCost({ tan: 4.2, rate: 35, lossPlanned: 0.2778, lossActual: 0.45,
 * priceN: 1.2 }).lostKgHa // 25.3 kg N/ha
 */
export function lateIncorporationCost(i: {
  tan: number;
  rate: number;
  lossPlanned: number;
  lossActual: number;
  priceN: number;
}): { lostKgHa: number; lostMoneyHa: number } {
  const lostKgHa =
    (within('loss_actual', i.lossActual, RANGES.share) -
      within('loss_planned', i.lossPlanned, RANGES.share)) *
    within('tan', i.tan, { label: 'Ammonium-N', unit: 'kg/t', min: 0, max: 250 }) *
    within('rate', i.rate, RANGES.rateTHa);
  return { lostKgHa, lostMoneyHa: lostKgHa * i.priceN };
}
