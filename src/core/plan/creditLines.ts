import { LINE_ERROR } from '../budget/ledger';
import { creditLegumeTable, overlapCredit, type LegumeCredit } from '../budget/legumeTable';
import { creditAllowed } from '../budget/matrix';
import { creditOrganicMatter } from '../budget/organicMatter';
import { creditCropN, creditIrrigationWater } from '../budget/otherCredits';
import { creditSoilNitrate, type SoilNitrate } from '../budget/soilNitrate';
import type { Crop } from '../reference/crops';
import { legumeOf } from '../reference/legumes';
import { textureGroup } from '../reference/soils';
import { entered, step } from '../why/step';
import { meanTemperature, type SeasonCalendar } from './calendar';
import { dayOf } from './days';
import type { Plan, PreviousLegume } from './document';
import type { LedgerLine } from './line';
import { attempt, type Problem } from './problem';

export interface SoilCredits {
  lines: LedgerLine[];
  nitrate: SoilNitrate | null;
  legume: LegumeCredit | null;
  omUsed: boolean;
  omTestDepthCm: number;
}
const OM_N_TO_S = 8;
const DEPOSITION_IN_TIME = 0.5;
const blank = { p: null, k: null, s: null, struck: null, date: null } as const;

function nitrateLine(nitrate: SoilNitrate, date: string | null): LedgerLine {
  return { ...blank, id: 'soil_nitrate', label: `Soil nitrate, 0-${nitrate.sampledToCm} cm`, detail: nitrate.extrapolated ? 'deeper layer estimated' : 'sampled', kind: 'credit', evidence: nitrate.extrapolated ? 'estimated' : 'measured', date, n: nitrate.soilNKgHa, error: nitrate.extrapolated ? LINE_ERROR.nitrate_extrapolated : LINE_ERROR.nitrate, why: { n: nitrate.why } };
}

/** Days and temperature over which organic matter releases N to this crop. */
function releaseWindow(plan: Plan, calendar: SeasonCalendar): { days: number; tempC: number; from: number } {
  const sampled = plan.ground.nitrateLayers.length > 0 && plan.ground.nitrateSampleDate ? dayOf(calendar, plan.ground.nitrateSampleDate) : 0;
  const from = Math.max(calendar.planting, sampled, 0);
  const days = plan.season.releaseDays ?? Math.min(365, Math.max(30, calendar.uptakeEnd - from));
  return { days, tempC: plan.season.soilTempSeasonC ?? Math.max(2, meanTemperature(calendar, from, from + days)), from };
}

function organicMatterLine(plan: Plan, calendar: SeasonCalendar, omPct: number): LedgerLine {
  const { days, tempC } = releaseWindow(plan, calendar);
  const om = creditOrganicMatter({ omPct, texture: textureGroup(plan.field.soilTextureId), seasonDays: days, soilTempSeasonC: tempC, moistureClass: plan.season.moistureClass });
  const sourced = (id: string, known: number | null, source: string) => { const s = om.why.inputs.find((x) => x.id === `credit.organic_matter.${id}`); if (s && known === null) Object.assign(s, { source, confidence: 'low' }); };
  sourced('temp', plan.season.soilTempSeasonC, 'monthly normals of the farm’s climate');
  sourced('days', plan.season.releaseDays, 'from planting or the nitrate sample to the end of N uptake, by the stage clock');
  const s = om.creditKgHa / OM_N_TO_S;
  return {
    ...blank, id: 'om_mineralisation', label: `Soil organic matter, ${omPct} %`, detail: `${days} days at ${tempC.toFixed(1)} °C`, kind: 'credit', evidence: 'estimated', n: om.creditKgHa, s, error: LINE_ERROR.om,
    why: { n: om.why, s: step('credit.organic_matter.s', 'S from organic matter', s, 'kg/ha', { formula: 'N released / 8', source: 'chapter 1, S1', confidence: 'medium', inputs: [om.why] }) },
  };
}

function legumeLine(previous: PreviousLegume, legume: LegumeCredit): LedgerLine {
  const overlap = overlapCredit({ creditKgHa: legume.creditKgHa, overlap: previous.overlap });
  const name = legumeOf(previous.legumeKey)[0]?.name ?? previous.legumeKey;
  const stand = legume.standClass === 'any' ? 'grain taken' : legume.standClass === 'failed' ? 'failed stand' : `${legume.standClass === 'poor' ? 'thin' : legume.standClass} stand`;
  const carried = (previous.removedFracTops ?? 0) >= 0.5 ? ', cut and carried' : '';
  return {
    ...blank, id: previous.yearsSinceKill < 2 ? 'legume_table_year1' : 'legume_table_year2_3', label: `${name}, ${stand}${carried}`, detail: legume.derivedClass && previous.standClass && legume.standClass !== previous.standClass ? `claimed ${previous.standClass}, counts say ${legume.standClass}` : 'by table', kind: 'credit', evidence: 'by table', date: previous.killDate,
    n: overlap.creditKgHa, error: LINE_ERROR.legume_table,
    why: { n: overlap.s === 0 ? legume.why : step('credit.legume.net', 'Legume credit', overlap.creditKgHa, 'kg/ha', { formula: `credit x (1 - ${overlap.s}): that share is in the nitrate sample already`, source: 'chapter 1, C12', confidence: 'low', inputs: [legume.why] }) },
  };
}

/**
 * Credits from soil, previous crop and water: each a line with its evidence. The credit matrix of the yield-goal school decides what may
 * be subtracted; a line that the school already holds is left out with 0.
 */
export function soilCreditLines(plan: Plan, crop: Crop, calendar: SeasonCalendar | null, problems: Problem[]): SoilCredits {
  const { field, ground, season, previous } = plan;
  const texture = textureGroup(field.soilTextureId);
  const lines: LedgerLine[] = [];
  const add = (line: LedgerLine | null) => { if (line) lines.push(line); };

  const nitrate = ground.nitrateLayers.length === 0 ? null : attempt(problems, 'ground', () => creditSoilNitrate({ rootDepthCm: crop.rootDepthCm, layers: ground.nitrateLayers, texture, cropKey: crop.key }));
  if (nitrate) add(nitrateLine(nitrate, ground.nitrateSampleDate));

  // A nodulated legume takes nothing off the sheet: its requirement is 0 and its credits would only be a surplus on paper.
  const omPct = field.omPct;
  const omUsed = calendar !== null && omPct !== null && omPct <= 15 && texture !== 'organic' && crop.nReqKgT > 0;
  if (omUsed) add(attempt(problems, 'budget', () => organicMatterLine(plan, calendar, omPct)));

  let legume: LegumeCredit | null = null;
  if (previous?.kind === 'legume') {
    legume = attempt(problems, 'crop', () => creditLegumeTable({ ...previous, texture, killTiming: previous.killTiming, tillage: previous.tillage, climate: previous.climate, standAge: previous.standAge }));
    const grain = legumeOf(previous.legumeKey)[0]?.useType === 'grain_legume';
    const state = creditAllowed({ line: grain ? 'grain_legume_previous' : 'legume_table_year1', school: 'yield_goal', flags: { nitrate_sampled: ground.nitrateLayers.length > 0 } }).state;
    if (legume && state === 'zero') {
      const line = legumeLine(previous, legume);
      add({ ...line, n: 0, detail: 'counted by the nitrate sample', why: { n: step('credit.legume.net', 'Grain legume credit', 0, 'kg/ha', { formula: 'the nitrate sample after its harvest already holds what it left', source: 'chapter 1, C7 and matrix', confidence: 'medium', inputs: [legume.why] }) } });
    } else if (legume) {
      const l = legume;
      add(attempt(problems, 'crop', () => legumeLine(previous, l)));
    }
  }
  const { cropN, irrigation } = plan;
  if (cropN) {
    const c = attempt(problems, 'crop', () => creditCropN({ cropKey: crop.key, ...cropN }));
    if (c) add({ ...blank, id: 'crop_n_in_spring', label: 'N already in the crop', detail: 'taken up in autumn', kind: 'credit', evidence: cropN.cropNKgHa !== null ? 'measured' : 'estimated', n: c.creditKgHa, error: LINE_ERROR.nitrate, why: { n: c.why } });
  }
  if (irrigation) {
    const w = attempt(problems, 'budget', () => creditIrrigationWater({ irrigationMm: irrigation.mm, waterNo3nMgL: irrigation.no3nMgL, shareBeforeRunDown: irrigation.shareBeforeRunDown }));
    if (w) add({ ...blank, id: 'irrigation_nitrate', label: `Irrigation water, ${irrigation.mm} mm`, detail: `${irrigation.no3nMgL} mg/L nitrate-N`, kind: 'credit', evidence: 'measured', n: w.creditKgHa, error: LINE_ERROR.irrigation, why: { n: w.why } });
  }
  const [depN, depS] = [season.depositionNKgHa, season.depositionSKgHa];
  if (depN !== null || depS !== null) {
    const half = (x: number | null) => (x === null ? null : x * DEPOSITION_IN_TIME);
    const reason = (x: 'n' | 's', v: number) => step(`credit.deposition.${x}`, 'Deposition', v * DEPOSITION_IN_TIME, 'kg/ha', { formula: 'half of the year falls in the uptake window', source: 'chapter 1, C10', confidence: 'low', inputs: [entered(`credit.deposition.${x}.year`, 'In a year', v, 'kg/ha')] });
    add({ ...blank, id: 'deposition', label: 'Deposition from the air', detail: 'half of the year', kind: 'credit', evidence: 'entered', n: half(depN), s: half(depS), error: LINE_ERROR.deposition, why: { ...(depN === null ? {} : { n: reason('n', depN) }), ...(depS === null ? {} : { s: reason('s', depS) }) } });
  }
  return { lines, nitrate, legume, omUsed, omTestDepthCm: field.omDepthCm };
}
