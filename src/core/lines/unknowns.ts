import type { Crop } from '../book/crops';
import { textureGroup } from '../book/soils';
import type { Plan } from '../document/document';
import type { AssumedCredit, UnknownCredit } from '../document/leftDocument';
import { said } from '../why/said';
import { entered, step } from '../why/step';
import type { LeafVerdict } from './leafVerdict';
import { creditLine, type LedgerLine, type Usual } from './line';
import { fixes } from './fixing';
import { nSchoolOf } from './requirementLine';

// Credits that belong to a plan and that nobody knows: they stand in the sheet with their usual
// range and count nothing until somebody says so (chapter 7, W4.2 and W4.5).

interface Unknown extends Usual {
  id: UnknownCredit;
  label: string;
}

/** Nitrate of spring to 60 cm by texture and winter drainage: little, middling, much rain. */
const NITRATE = {
  sand: [
    [20, 60],
    [15, 40],
    [10, 30],
  ],
  loam: [
    [40, 120],
    [25, 70],
    [20, 45],
  ],
  clay: [
    [40, 140],
    [30, 80],
    [20, 50],
  ],
} as const;
/** More after vegetables, a ploughed ley, manured ground. */
const RICH_GROUND = [20, 60] as const;

function nitrate(plan: Plan): Unknown | null {
  const texture = textureGroup(plan.field.soilTextureId);
  if (texture === 'organic') return null;
  const { winterDrainageMm } = plan.season;
  const wet = winterDrainageMm > 250 ? 2 : winterDrainageMm >= 100 ? 1 : 0;
  const [low, high] = NITRATE[texture][wet];
  const rich =
    plan.previous?.kind === 'legume' || plan.manureHistory === 'yes' || plan.schools.regularManure;
  return {
    id: 'soil_nitrate',
    label: 'Soil nitrate',
    nutrient: 'n',
    low: low + (rich ? RICH_GROUND[0] : 0),
    high: high + (rich ? RICH_GROUND[1] : 0),
    findOut: '15 cores to 60 cm in spring',
    cost: 50,
  };
}

const EXTRACTED_WATER = 0.85 * 0.01;
const NITRATE_OF_WATER = 25;

/** Unknown credits of a plan, as far as its way of reckoning asks for them. */
function unknownCredits(plan: Plan, crop: Crop, leaf: LeafVerdict | null): Unknown[] {
  const { field, ground, season, irrigation: water } = plan;
  // A dose holds what the ground gives; the leaf of a tree and the air of a legume decide by
  // themselves.
  const asksN =
    !fixes(crop) &&
    nSchoolOf(plan, crop) === 'yield_goal' &&
    leaf?.n !== 'above' &&
    leaf?.n !== 'within';
  const struck = (id: string) => plan.struck.some((s) => s.line === id);
  const list: (Unknown | null | false)[] = [
    asksN && ground.nitrateLayers.length === 0 && crop.nitrateUsableFrac > 0 && nitrate(plan),
    asksN &&
      field.omPct === null &&
      textureGroup(field.soilTextureId) !== 'organic' && {
        id: 'organic_matter',
        label: 'Soil organic matter',
        nutrient: 'n',
        low: 15,
        high: 45,
        findOut: 'organic matter with the soil test',
        cost: 10,
      },
    asksN &&
      plan.previous === null &&
      !(crop.nBaseKgHa > 0) && {
        id: 'previous_crop',
        label: 'Previous crop',
        nutrient: 'n',
        low: 0,
        high: 150,
        findOut: 'ask what stood here: cereal 0, pulse to 30, brassica leaves to 60, ley to 150',
        cost: 0,
      },
    asksN &&
      plan.previous?.kind === 'green_manure' &&
      plan.previous.dmTHa === 0 && {
        id: 'green_manure',
        label: 'Green manure, not weighed',
        nutrient: 'n',
        low: 0,
        high: 100,
        findOut: 'weigh four frames of 0.25 m2, fresh and dried; a ripe one may tie up to 40 kg',
        cost: 0,
      },
    asksN &&
      plan.manureHistory === 'unknown' &&
      !plan.organics.some((o) => o.cropYear >= 2) && {
        id: 'earlier_manure',
        label: 'Manure of earlier years',
        nutrient: 'n',
        low: 0,
        high: 25,
        findOut: 'ask whether there was any in the last four years',
        cost: 0,
      },
    asksN &&
      crop.winterN !== null &&
      plan.cropN === null && {
        id: 'crop_n_in_spring',
        label: 'N already in the crop',
        nutrient: 'n',
        low: crop.winterN === 'canola' ? 30 : 10,
        high: crop.winterN === 'canola' ? 100 : 30,
        findOut: 'count shoots in spring, or cut half a square metre',
        cost: 0,
      },
    water !== null &&
      water.mm > 0 &&
      water.no3nMgL === null && {
        id: 'irrigation_nitrate',
        label: 'Nitrate of the irrigation water',
        nutrient: 'n',
        low: 0,
        high: Math.round(water.mm * NITRATE_OF_WATER * EXTRACTED_WATER * water.shareBeforeRunDown),
        findOut: 'a strip or the laboratory',
        cost: 15,
      },
    season.cropKey !== null &&
      ground.sulphateLayers.length === 0 && {
        id: 'soil_sulphate',
        label: 'Soil sulphate',
        nutrient: 's',
        low: 0,
        high: 25,
        findOut: 'sulphate with the nitrate sample',
        cost: 15,
      },
  ];
  return list.filter((u): u is Unknown => u !== null && u !== false && !struck(u.id));
}

const TAKES = { low: 'low end', middle: 'middle', own: 'own figure' } as const;
const SPREAD = 0.3;
/** An unknown credit that somebody reckons with all the same (W4.2): assumed, and called so. */
function assumedLine(u: Unknown, taken: AssumedCredit): LedgerLine {
  const kg =
    taken.take === 'own' ? (taken.kgHa ?? 0) : taken.take === 'low' ? u.low : (u.low + u.high) / 2;
  return creditLine({
    id: u.id,
    label: u.label,
    detail: said`assumed, ${TAKES[taken.take]}; usually ${u.low} kg/ha to ${u.high} kg/ha`,
    evidence: 'assumed',
    n: u.nutrient === 'n' ? kg : null,
    s: u.nutrient === 's' ? kg : null,
    error: kg > 0 ? (SPREAD * (u.high - u.low)) / kg : 0,
    why: {
      [u.nutrient]: step(`credit.${u.id}.assumed`, u.label, kg, 'kg/ha', {
        formula: `${TAKES[taken.take]} of the usual range ${u.low} to ${u.high}`,
        source: 'assumed; range of chapter 7, W4.5',
        confidence: 'low',
        inputs: taken.take === 'own' ? [entered(`credit.${u.id}.own`, 'Taken', kg, 'kg/ha')] : [],
      }),
    },
  });
}

/** Lines of the unknown credits: empty, with what is usual, or assumed where somebody took a figure. */
export const unknownLines = (plan: Plan, crop: Crop, leaf: LeafVerdict | null): LedgerLine[] =>
  unknownCredits(plan, crop, leaf).map((u): LedgerLine => {
    const taken = plan.assumed.find((t) => t.id === u.id);
    if (taken) return assumedLine(u, taken);
    return {
      ...creditLine({
        id: u.id,
        label: u.label,
        detail: said`not known, usually ${u.low} kg/ha to ${u.high} kg/ha`,
        evidence: 'not known',
        n: null,
        error: 0,
        why: {},
      }),
      usual: { nutrient: u.nutrient, low: u.low, high: u.high, findOut: u.findOut, cost: u.cost },
    };
  });
