import type { Plan } from '../document/document';
import type { SeasonCalendar } from '../lines/calendar';
import type { GroundAssessment } from '../lines/groundReading';
import type { LeafReading } from '../lines/leaf';
import type { PlanSums } from '../lines/line';
import type { Problem, Station } from '../lines/problem';
import type { SoilFirst } from '../lines/soilFirst';
import type { Supply } from '../lines/supply';
import type { Warning } from '../rules/rule';
import type { Caution } from './triage';
import type { Words } from '../why/said';
import { openNote, overNote, settledNote } from './placed';

/** `waits` is for something else first; `over` has more than its target. */
export type StationWord = 'done' | 'open' | 'stopped' | 'waits' | 'over';
export interface StationState {
  state: StationWord;
  /** What is missing, what must be put right, or nothing. */
  note: Words;
}
/** Where each station of a plan stands, and what it lacks. */
export function stationStates(
  plan: Plan,
  a: {
    ground: GroundAssessment;
    supply: Supply;
    sums: PlanSums;
    calendar: SeasonCalendar | null;
    leaf: LeafReading;
    soilFirst: SoilFirst | null;
  },
  all: readonly Caution[],
  problems: readonly Problem[],
): Record<Station, StationState> {
  const { season, ground } = plan;
  const stop = (station: Station) =>
    all.find((c) => c.level === 'stop' && c.state === 'open' && c.station === station)?.warning;
  const cautions = (station: Station) =>
    all.filter((c) => c.level === 'caution' && c.state === 'open' && c.station === station).length;
  const settle = (k: number) => (k > 0 ? `${k} to settle` : '');
  const missing = (...list: [unknown, string][]): string | null => {
    const lacks = list.filter(([v]) => v === null || v === 0 || v === false).map(([, w]) => w);
    return lacks.length > 0 ? `missing: ${lacks.join(', ')}` : null;
  };
  const state = (station: Station, open: Words | null, note: Words): StationState => {
    const halted = stop(station);
    const problem = problems.find((p) => p.station === station);
    if (halted) return { state: 'stopped', note: halted.message };
    if (problem) return { state: 'open', note: problem.message };
    return open === null ? { state: 'done', note } : { state: 'open', note: open };
  };
  const { leaf } = a;
  const has = (x: string) => ground.readings.some((r) => r.nutrient === x);
  const cropLacks = missing(
    [season.cropKey, 'crop'],
    [season.yieldGoalTHa, 'yield goal'],
    [season.harvestDate, 'harvest date'],
    [
      season.plantingDate !== null || season.plantingYear !== null || a.calendar !== null,
      'planting date',
    ],
    [plan.previous, 'previous crop'],
  );
  return {
    ground: state(
      'ground',
      missing([ground.phWater ?? ground.phCacl2, 'pH'], [has('p'), 'P'], [has('k'), 'K']),
      settle(cautions('ground')),
    ),
    crop: state('crop', cropLacks, settle(cautions('crop'))),
    budget: state(
      'budget',
      season.cropKey && season.yieldGoalTHa !== null
        ? missing([a.calendar, 'season dates'])
        : 'missing: crop and yield goal',
      settle(cautions('budget')),
    ),
    supply: supplyState(plan, a, stop('supply'), problems),
    season:
      leaf.datesOfSeason.length === 0
        ? { state: 'open', note: 'no leaf sample yet' }
        : {
            state: 'done',
            note: leaf.short.length > 0 ? `short: ${leaf.short.join(', ')}` : '',
          },
  };
}

/** Supply is settled when all four nutrients are placed or left out (chapter 7, W1.5). */
function supplyState(
  { season }: Plan,
  {
    sums,
    calendar,
    soilFirst,
  }: { sums: PlanSums; calendar: SeasonCalendar | null; soilFirst: SoilFirst | null },
  halted: Warning | undefined,
  problems: readonly Problem[],
): StationState {
  const problem = problems.find((p) => p.station === 'supply');
  if (halted) return { state: 'stopped', note: halted.message };
  if (problem) return { state: 'open', note: problem.message };
  if (season.cropKey === null) return { state: 'waits', note: 'crop first' };
  if (season.yieldGoalTHa === null) return { state: 'waits', note: 'yield goal first' };
  if (soilFirst) return { state: 'waits', note: soilFirst.note };
  if (calendar === null) return { state: 'waits', note: 'season dates first' };
  const open = openNote(sums);
  if (open !== null) return { state: 'open', note: open };
  const over = overNote(sums, calendar.crop);
  return over === null ? { state: 'done', note: settledNote(sums) } : { state: 'over', note: over };
}

/** Where a field of the plan is put right. */
export const stationOf = (field: string): Station =>
  /^(field\.soil|field\.climate|lime|ground)/.test(field)
    ? 'ground'
    : field.startsWith('organics')
      ? 'budget'
      : field.startsWith('passes')
        ? 'supply'
        : field.startsWith('leaves')
          ? 'season'
          : 'crop';
