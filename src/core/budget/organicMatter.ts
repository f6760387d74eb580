import { warmthAt } from '../quantity/thermalTime';
import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { omParameter } from '../book/budgetTables';
import { entered, fromTable, step, type Step } from '../why/step';
import { BULK_DENSITY } from './soilNitrate';

export interface OrganicMatterInput {
  omPct: number;
  texture: 'sand' | 'loam' | 'clay' | 'organic';
  seasonDays: number;
  soilTempSeasonC?: number | null;
  moistureClass?: string | null;
  bulkDensityGCm3?: number | null;
  depthCm?: number | null;
}

/**
 * N that soil organic matter releases to the crop between planting and the end of uptake (chapter
 * 1, C3).
 *
 * @param i.seasonDays from the later of planting and nitrate sample to the end of uptake, 30 to 365
 * @throws Refusal above 15 % organic matter, where the method does not hold
 * @example creditOrganicMatter({ omPct: 3, texture: 'loam', seasonDays: 150, soilTempSeasonC: 18,
 * moistureClass: 'rainfed_normal' }).creditKgHa // 48.49
 */
export function creditOrganicMatter(i: OrganicMatterInput): {
  omNKgHa: number;
  nMinKgHa: number;
  creditKgHa: number;
  capped: boolean;
  why: Step;
} {
  within('om_pct', i.omPct, RANGES.omPctBudget);
  if (i.omPct > 15 || i.texture === 'organic')
    refuse(
      'inconsistent',
      'om_pct',
      `om_pct: above 15, organic soil, method does not hold (${i.omPct} %). Use measured nitrate.`,
      { value: i.omPct, allowed: '0 to 15 %', rule: 'OM-03' },
    );
  const days = within('season_days', i.seasonDays, RANGES.seasonDays);
  const temp = within('soil_temp_season_c', i.soilTempSeasonC ?? 16, RANGES.soilTempC);
  const rows = {
    nInOm: omParameter('n_in_om'),
    k: omParameter('k_at_15c', i.texture),
    q10: omParameter('q10'),
    moisture: omParameter('f_moisture', i.moistureClass ?? 'rainfed_normal'),
    sync: omParameter('f_sync'),
    cap: omParameter('credit_cap_kg_ha'),
    omCap: omParameter('om_cap_pct'),
    depth: omParameter('depth_cm'),
  };
  const depth = within('depth_cm', i.depthCm ?? rows.depth.value, {
    label: 'Depth of the organic-matter test',
    unit: 'cm',
    min: 10,
    max: 30,
  });
  const soilTHa =
    depth *
    within('bulk_density_g_cm3', i.bulkDensityGCm3 ?? BULK_DENSITY.loam, RANGES.bulkDensityGCm3) *
    100;
  const omNKgHa =
    ((soilTHa * Math.min(i.omPct, rows.omCap.value)) / 100) * (rows.nInOm.value / 100) * 1000;
  const nMinKgHa =
    (omNKgHa * rows.k.value * days * warmthAt(temp, 15, rows.q10.value) * rows.moisture.value) /
    365;
  const creditKgHa = Math.min(nMinKgHa * rows.sync.value, rows.cap.value);
  const capped = nMinKgHa * rows.sync.value > rows.cap.value || i.omPct > rows.omCap.value;
  const id = 'credit.organic_matter';
  return {
    omNKgHa,
    nMinKgHa,
    creditKgHa,
    capped,
    why: step(id, 'Soil organic matter', creditKgHa, 'kg/ha', {
      formula:
        'N in organic matter x yearly release x days / 365 x temperature x moisture x share the crop catches',
      source: 'chapter 1, C3',
      confidence: 'medium',
      school: 'yield goal only',
      note: capped
        ? `Organic matter above ${rows.omCap.value} % earns no extra credit; at most ${rows.cap.value} kg/ha.`
        : undefined,
      inputs: [
        step(`${id}.n`, 'N in organic matter', omNKgHa, 'kg/ha', {
          formula: 'soil mass x organic matter x 5.8 %',
          inputs: [
            entered(`${id}.om`, 'Organic matter', i.omPct, '%'),
            step(`${id}.soil`, 'Soil mass', soilTHa, 't/ha', {
              formula: `${depth} cm x bulk density x 100`,
            }),
          ],
        }),
        fromTable(`${id}.k`, 'Yearly release at 15 °C', rows.k.value, 'per year', rows.k),
        entered(`${id}.days`, 'Days of release', days, 'd'),
        step(`${id}.temp`, 'Soil temperature', temp, '°C', {
          source: i.soilTempSeasonC == null ? 'default 16 °C' : 'entered',
        }),
        fromTable(`${id}.q10`, 'Doubling per 10 °C', rows.q10.value, '', rows.q10),
        fromTable(`${id}.moisture`, 'Moisture factor', rows.moisture.value, '', rows.moisture),
        fromTable(`${id}.sync`, 'Share the crop catches', rows.sync.value, '', rows.sync),
      ],
    }),
  };
}

/**
 * The simple school: 22 kg N/ha for each per cent of organic matter, up to 5 % (C4).
 *
 * @example creditOrganicMatterSimple({ omPct: 6 }).creditKgHa // 110
 */
export function creditOrganicMatterSimple({ omPct }: { omPct: number }): { creditKgHa: number } {
  within('om_pct', omPct, RANGES.omPctBudget);
  return {
    creditKgHa:
      Math.min(omPct, omParameter('om_cap_pct').value) *
      omParameter('simple_credit_kg_ha_per_om_pct').value,
  };
}
