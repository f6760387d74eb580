import type { Book } from '../book/book';
import { clip } from '../quantity/curve';
import { refuse } from '../quantity/refusal';
import { within } from '../quantity/range';
import { cropOf } from '../book/crops';
import { nIndexAfter, nIndexBandOf, nIndexRatesOf } from '../book/nIndex';
import { entered, fromTable, step, type Step } from '../why/step';

/**
 * Net N that a mineral soil still releases after the sample, kg/ha (chapter 1, R7): more with
 * organic matter, less once it has warmed.
 */
const MINERALISABLE = { ordinary: 20, rich: 40, warmed: 10 } as const;
const KG = (label: string) => ({ label, unit: 'kg/ha', min: 0, max: 1000 });
const HIGHEST_INDEX = 6;

export interface IndexInput {
  cropKey: string;
  yieldGoalTHa: number;
  /**
   * Nitrate and ammonium in 0-90 cm, kg N/ha; null where the previous crop stands in for a sample.
   */
  smnKgHa?: number | null;
  cropNKgHa?: number | null;
  omPct?: number | null;
  soilWarmed?: boolean | null;
  previousCropGroup?: string | null;
  soilGroup?: string | null;
  winterDrainageMmClass?: string | null;
  regularManure?: boolean | null;
  legalCapKgHa?: number | null;
}
export interface IndexDose {
  nIndex: number;
  rate0KgHa: number;
  adjKgHa: number;
  nDoseKgHa: number;
  requirementKind: 'dose';
  why: Step;
}

function indexOf(i: IndexInput): { index: number; why: Step } {
  if (i.smnKgHa != null) {
    const om = i.omPct ?? 0;
    if (om > 20)
      return {
        index: HIGHEST_INDEX,
        why: entered('requirement.n.index.peat', 'Peat: highest index', om, '% organic matter'),
      };
    if (om > 10)
      return {
        index: 5,
        why: entered('requirement.n.index.organic', 'Organic soil', om, '% organic matter'),
      };
    const more = i.soilWarmed
      ? MINERALISABLE.warmed
      : om >= 4 && om <= 8
        ? MINERALISABLE.rich
        : MINERALISABLE.ordinary;
    const held = within('crop_n_kg_ha', i.cropNKgHa ?? 0, { ...KG('N in the crop'), max: 200 });
    const supply = Math.round(within('smn_kg_ha', i.smnKgHa, KG('Soil mineral N')) + held + more);
    const band = nIndexBandOf(supply);
    return {
      index: band.nIndex,
      why: step('requirement.n.index', `N index ${band.nIndex}`, supply, 'kg N/ha', {
        formula: 'soil mineral N + N in the crop + what is still released',
        source: band.source,
        confidence: band.confidence,
        inputs: [
          entered('requirement.n.index.smn', 'Soil mineral N', i.smnKgHa, 'kg/ha'),
          entered('requirement.n.index.crop', 'N in the crop', held, 'kg/ha'),
          step('requirement.n.index.more', 'Still to be released', more, 'kg/ha'),
        ],
      }),
    };
  }
  const { previousCropGroup, soilGroup, winterDrainageMmClass } = i;
  if (!previousCropGroup || !soilGroup || !winterDrainageMmClass)
    return refuse(
      'missing',
      'smn_kg_ha',
      'smn_kg_ha: give soil mineral N, or the previous crop group with the soil group and the winter drainage.',
      { allowed: 'a sample, or previous_crop_group + soil_group + winter_drainage_mm_class' },
    );
  const row = nIndexAfter({ previousCropGroup, soilGroup, winterDrainageMmClass });
  return {
    index: row.nIndex,
    why: fromTable(
      'requirement.n.index',
      `N index after ${previousCropGroup.replaceAll('_', ' ')}`,
      row.nIndex,
      '',
      row,
    ),
  };
}

/**
 * N dose by index and ceiling (chapter 1, R7): the soil's supply places the field, the table gives
 * the dose, the yield moves it within limits.
 * The index tables are examples of their kind: a farm may have its own.
 *
 * @throws Refusal where the crop has no rows, or nothing places the field
 * @example requirementIndex(PRINTED, { cropKey: 'winter_wheat', smnKgHa: 55, yieldGoalTHa: 9
 * }).nDoseKgHa // 230
 */
export function requirementIndex(book: Book, i: IndexInput): IndexDose {
  const crop = cropOf(book, i.cropKey);
  const rows =
    nIndexRatesOf(crop) ??
    refuse('inconsistent', 'index_ceiling', `index_ceiling: not offered for ${i.cropKey}`, {
      value: i.cropKey,
      allowed: 'a crop with rows in the index tables',
    });
  const goal = within('yield_goal_t_ha', i.yieldGoalTHa, {
    label: `${crop.name} yield`,
    unit: 't/ha',
    min: 0,
    max: crop.yieldMaxTHa,
    above: true,
  });
  const placed = indexOf(i);
  const nIndex = Math.min(HIGHEST_INDEX, placed.index + (i.regularManure ? 1 : 0));
  const row =
    rows.find((r) => r.nIndex === nIndex) ??
    refuse(
      'inconsistent',
      'index_ceiling',
      `index_ceiling: no rate for ${i.cropKey} at index ${nIndex}.`,
      { value: nIndex },
    );
  const adjKgHa = clip(
    (goal - row.referenceYieldTHa) * row.yieldAdjKgNPerT,
    -row.maxUpwardAdjKgHa,
    nIndex >= 5 ? 0 : row.maxUpwardAdjKgHa,
  );
  const legal =
    i.legalCapKgHa == null
      ? Infinity
      : within('legal_cap_kg_ha', i.legalCapKgHa, KG('Legal ceiling'));
  const nDoseKgHa = Math.min(Math.max(0, row.nRateKgHa + adjKgHa), row.nCapKgHa, legal);
  return {
    nIndex,
    rate0KgHa: row.nRateKgHa,
    adjKgHa,
    nDoseKgHa,
    requirementKind: 'dose',
    why: step('requirement.n', 'N dose by index', nDoseKgHa, 'kg/ha', {
      school: 'index and ceiling',
      formula: `rate of the index + yield adjustment, at most ${Math.min(row.nCapKgHa, legal)}`,
      source: row.source,
      confidence: row.confidence,
      note: 'A dose: organic matter, previous crop and soil nitrate are inside the index and are not credited again.',
      inputs: [
        placed.why,
        fromTable(
          'requirement.n.index.rate',
          `Rate at index ${nIndex}`,
          row.nRateKgHa,
          'kg/ha',
          row,
        ),
        step('requirement.n.index.yield', 'For the yield goal', adjKgHa, 'kg/ha', {
          formula: `(goal - ${row.referenceYieldTHa} t/ha) x ${row.yieldAdjKgNPerT} kg/t, at most ${row.maxUpwardAdjKgHa} kg`,
        }),
      ],
    }),
  };
}
