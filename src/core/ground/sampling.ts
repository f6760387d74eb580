import { dateAfter, daysBetween, type IsoDate } from '../quantity/calendar';
import { RANGES, within } from '../quantity/range';

/**
 * Cells of a grid and their spacing (chapter 3, 2.1).
 *
 * @example samplingGrid({ areaHa: 40, cellAreaHa: 2.02 }) // { nCells: 20, spacingM: 142 }
 */
export function samplingGrid(i: { areaHa: number; cellAreaHa: number }): {
  nCells: number;
  spacingM: number;
} {
  within('area_ha', i.areaHa, RANGES.areaHa);
  within('cell_area_ha', i.cellAreaHa, { min: 0.05, max: 100, unit: 'ha', label: 'Cell area' });
  return {
    nCells: Math.ceil(i.areaHa / i.cellAreaHa - 1e-9),
    spacingM: 100 * Math.sqrt(i.cellAreaHa),
  };
}

/**
 * Cores to take between old fertiliser bands for each core in a band whose place is known (chapter
 * 3, 2.1; Kitchen, Westfall & Havlin 1990).
 *
 * @example bandCores({ bandSpacingCm: 76 }).value // 20
 */
export function bandCores({ bandSpacingCm }: { bandSpacingCm: number }): { value: number } {
  within('band_spacing_cm', bandSpacingCm, {
    min: 10,
    max: 300,
    unit: 'cm',
    label: 'Band spacing',
  });
  return { value: Math.floor(8 * (bandSpacingCm / 30) + 0.5) };
}

export interface SamplingDeadlineInput {
  planting: IsoDate;
  /** Days that the lime needs to work; 0 when no lime is foreseen. */
  limeLeadDays?: number | null;
  spreadDays?: number | null;
  labDays?: number | null;
  today?: IsoDate | null;
}
const DAYS = (label: string, max: number) => ({ min: 0, max, unit: 'd', label });

/**
 * Last day on which a sample still serves the coming crop: planting less lime, spreading and
 * laboratory (chapter 3, 2.3).
 *
 * @example samplingDeadline({ planting: '2026-04-25' }).value // '2025-10-03'
 */
export function samplingDeadline(i: SamplingDeadlineInput): {
  value: IsoDate;
  days: number;
  late: boolean;
} {
  const days =
    within('lime_lead_days', i.limeLeadDays ?? 180, DAYS('Lime lead', 2000)) +
    within('spread_days', i.spreadDays ?? 14, DAYS('Days to spread', 365)) +
    within('lab_days', i.labDays ?? 10, DAYS('Days at the laboratory', 120));
  const value = dateAfter(i.planting, -days);
  return { value, days, late: i.today != null && daysBetween(i.today, value) < 0 };
}
