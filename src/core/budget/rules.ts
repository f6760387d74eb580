import type { Crop, SoilClass } from '../book/crops';
import type { Rule } from '../rules/rule';

/** What the budget rules look at, kg/ha unless the name says otherwise. */
export interface BudgetFacts {
  crop: Crop;
  yieldGoal: number;
  realistic: { mean: number; tooHigh: boolean; realistic: number } | null;
  nitrateSampled: boolean;
  nitrateSampledToCm: number | null;
  nitrateAgeDays: number | null;
  nitrateAutumn: boolean;
  nitrateMaxMgKg: number;
  manuredBeforeSampleDays: number | null;
  drainageMm: number;
  texture: 'sand' | 'loam' | 'clay' | 'organic';
  omPct: number | null;
  omUsed: boolean;
  omCredit: number;
  omDepthCm: number;
  legume: {
    claimed: string | null;
    derived: string | null;
    used: string;
    plants: number | null;
    coverPct: number | null;
    removedFrac: number;
    credit: number;
    uncut: number;
    killTiming: string | null;
    yearsSinceKill: number;
    grain: boolean;
    greenManure: boolean;
  } | null;
  requirementN: number;
  toBringN: number;
  surplusN: number;
  supplyN: number;
  plannedN: number;
  /** Of all passes, those too that may not go out. */
  passesN: number;
  plannedP: number;
  plannedK: number;
  sToBring: number;
  nSupplyTotal: number;
  sSupplyTotal: number;
  classes: Partial<Record<'P' | 'K' | 'S' | 'Mg', SoilClass>>;
  offtakeK: number;
  ryP: number | null;
  limiting: { factor: string; coLimiting: string[]; ry: number; liebig: number } | null;
  ph: number | null;
  cap: { binding: string | null; allowed: number; shortfall: number };
  fixing: boolean;
  /** Yield that water or stand allow, as a share of the goal. */
  otherLimitRy: number | null;
  greenManure: {
    cn: number;
    tieUpKgHa: number;
    turnWeek: number | null;
    weeksBeforePlanting: number | null;
    killedAfterSample: boolean;
  } | null;
  /** Two lines that hold the same nitrogen. */
  twice: [string, string] | null;
  companionThisSeason: boolean;
  legumeInStand: boolean;
  trials: { atTop: boolean; priceRatio: number } | null;
  waterEarlyShare: number | null;
  waterNitrateMgL: number | null;
  firstTimeHere: boolean;
  nodulesFailed: boolean;
  fungiLost: string | null;
  mined: { p: number; k: number; dropP: number; dropK: number } | null;
  late: { kgHa: number; share: number; stage: string; harm: string } | null;
  nBalance: number;
  pBalance: number;
  stressed: boolean;
}

const rule = (r: Omit<Rule<BudgetFacts>, 'module'>): Rule<BudgetFacts> => ({
  module: 'budget',
  ...r,
});
const LOW = ['very_low', 'low'];

export const budgetRules: readonly Rule<BudgetFacts>[] = [
  rule({
    id: 'Y-01',
    level: 'caution',
    when: 'yield goal above 1.2 times the field’s own realistic yield',
    message: 'Goal {g} t/ha is {pct} % above what this field did ({m}).',
    action: 'Use the mean + 5 %, or state what has changed.',
    test: (f) =>
      f.realistic?.tooHigh
        ? {
            g: f.yieldGoal,
            pct: (f.yieldGoal / f.realistic.mean - 1) * 100,
            m: f.realistic.mean.toFixed(1),
          }
        : null,
  }),
  rule({
    id: 'N-01',
    level: 'caution',
    when: 'no nitrate sample and drainage under 100 mm',
    message: 'Carry-over nitrate can be 20-150 kg/ha here.',
    action: 'Sample 0-60 cm.',
    test: (f) => (!f.nitrateSampled && f.drainageMm < 100 && !f.fixing ? {} : null),
  }),
  rule({
    id: 'N-02',
    level: 'caution',
    when: 'sampled above 60 cm for a crop that roots to 60 cm or deeper',
    message: 'Only {d} cm sampled; deeper nitrate estimated x1.6.',
    action: 'Sample 30-60 cm (60-90 for beet, malting barley, sunflower).',
    test: (f) =>
      f.nitrateSampledToCm !== null && f.nitrateSampledToCm < 60 && f.crop.rootDepthCm >= 60
        ? { d: f.nitrateSampledToCm }
        : null,
  }),
  rule({
    id: 'N-03',
    level: 'caution',
    when: 'nitrate sample older than 60 days at planting (30 on sand)',
    message: 'Nitrate moves and changes: the sample is {n} days old.',
    action: 'Resample, or reckon with winter drainage.',
    test: (f) =>
      f.nitrateAgeDays !== null &&
      f.nitrateAgeDays > (f.texture === 'sand' ? 30 : 60) &&
      !f.nitrateAutumn
        ? { n: f.nitrateAgeDays }
        : null,
  }),
  rule({
    id: 'N-04',
    level: 'stop',
    when: 'autumn nitrate sample and more than 150 mm drainage',
    message: 'An autumn sample before a wet winter says little about spring.',
    action:
      'Resample in spring; until then the sheet counts what the winter is reckoned to leave, in a wide band.',
    test: (f) => (f.nitrateAutumn && f.drainageMm > 150 ? {} : null),
  }),
  rule({
    id: 'N-05',
    level: 'caution',
    when: 'a layer above 60 mg/kg nitrate-N',
    message:
      'Nitrate-N {x} mg/kg is very high. Reported as NO3 instead of NO3-N (divide by 4.43)? Sampled in a dung pat or fertiliser band?',
    action: 'Verify before crediting.',
    test: (f) => (f.nitrateMaxMgKg > 60 ? { x: f.nitrateMaxMgKg } : null),
  }),
  rule({
    id: 'N-06',
    level: 'caution',
    when: 'nitrate sample within 6 weeks after manure or fertiliser',
    message: 'Part of this nitrate is the product spread {days} days before.',
    action: 'Do not also enter it as applied.',
    test: (f) =>
      f.manuredBeforeSampleDays !== null && f.manuredBeforeSampleDays <= 42
        ? { days: f.manuredBeforeSampleDays }
        : null,
  }),
  rule({
    id: 'OM-02',
    level: 'caution',
    when: 'organic matter not tested to 20 cm (+/- 5)',
    message: 'Organic matter was tested at {d} cm.',
    action: 'Correct the depth to the test depth.',
    test: (f) => (f.omUsed && Math.abs(f.omDepthCm - 20) > 5 ? { d: f.omDepthCm } : null),
  }),
  rule({
    id: 'OM-03',
    level: 'stop',
    when: 'organic matter above 15 %',
    message: 'Organic soil: this method does not hold. Nitrogen can exceed 200 kg/ha/yr.',
    action: 'Use measured nitrate; mind subsidence and water.',
    test: (f) => ((f.omPct ?? 0) > 15 ? {} : null),
  }),
  rule({
    id: 'OM-04',
    level: 'info',
    when: 'organic matter above 5 % and credited',
    message: 'Credit capped at {cap} kg/ha; old organic matter is slow.',
    action: 'Nothing to do; a nitrate test in spring tells more.',
    test: (f) => (f.omUsed && (f.omPct ?? 0) > 5 ? { cap: f.omCredit } : null),
  }),
  rule({
    id: 'OM-05',
    level: 'info',
    when: 'dry region, cereal or oilseed, organic matter credited',
    message:
      'Local rules in dry regions often subtract nitrate only; their unit need already holds the {x} kg/ha from organic matter.',
    action: 'If yours is of that kind do not mix its unit need with this credit.',
    test: (f) =>
      f.omUsed && f.drainageMm < 100 && ['cereal', 'oilseed'].includes(f.crop.group)
        ? { x: f.omCredit }
        : null,
  }),
  rule({
    id: 'N-13',
    level: 'caution',
    when: 'green manure cut and carried off',
    message:
      '{pct} % of the N left with the bale: credit falls from {a} to {b}, only roots and stubble remain.',
    action: 'Credit the lower figure; expect P and K gone too.',
    test: (f) =>
      f.legume && f.legume.greenManure && f.legume.removedFrac >= 0.5
        ? { pct: f.legume.removedFrac * 100, a: f.legume.uncut, b: f.legume.credit }
        : null,
  }),
  rule({
    id: 'N-14',
    level: 'caution',
    when: 'stand class by counts below the claimed class',
    message: 'Thin stand: {n} supports class {class}, not {claimed}.',
    action: 'Use the lower class; if cover < 10 % use 0.',
    test: (f) =>
      f.legume && f.legume.derived && f.legume.claimed && f.legume.used !== f.legume.claimed
        ? {
            n:
              f.legume.plants !== null
                ? `${f.legume.plants} plants per m2`
                : `${f.legume.coverPct} % legume`,
            class: f.legume.used,
            claimed: f.legume.claimed,
          }
        : null,
  }),
  rule({
    id: 'N-15',
    level: 'caution',
    when: 'legume killed early in autumn on sand or with more than 250 mm drainage',
    message: 'Much of the credit leaches before spring.',
    action: 'Kill later, or sow a catch crop.',
    test: (f) =>
      f.legume?.killTiming?.startsWith('autumn_early') &&
      (f.texture === 'sand' || f.drainageMm > 250)
        ? {}
        : null,
  }),
  rule({
    id: 'N-19',
    level: 'info',
    when: 'grain legume credit beside a nitrate sample',
    message: 'Grain took most of the N; the nitrate sample already holds the rest.',
    action: 'Its credit is 0 here.',
    test: (f) => (f.legume?.grain && f.nitrateSampled ? {} : null),
  }),
  rule({
    id: 'N-23',
    level: 'caution',
    when: 'legume credit claimed more than 3 years after the kill',
    message: 'Nothing measurable is left of a legume killed {years} years ago.',
    action: 'Credit 0.',
    test: (f) =>
      f.legume && f.legume.yearsSinceKill > 3 ? { years: f.legume.yearsSinceKill } : null,
  }),
  rule({
    id: 'N-25',
    level: 'caution',
    when: 'surplus above 40 kg N/ha',
    message: '{x} kg N/ha more than this crop can use.',
    action: 'A hungrier crop, a catch crop after harvest, no manure this year.',
    test: (f) =>
      f.surplusN > 40 && !f.fixing && f.crop.lateNSensitivity < 2 ? { x: f.surplusN } : null,
  }),
  rule({
    id: 'N-25b',
    level: 'stop',
    when: 'surplus above 40 kg N/ha on a crop that late N spoils',
    message: '{x} kg N/ha more than this crop can use: wrong field for {crop} ({harm}).',
    action: 'A hungrier crop, a catch crop after harvest, no manure this year.',
    test: (f) =>
      f.surplusN > 40 && !f.fixing && f.crop.lateNSensitivity >= 2
        ? { x: f.surplusN, crop: f.crop.name, harm: f.crop.lateNHarm }
        : null,
  }),
  rule({
    id: 'N-26',
    level: 'caution',
    when: 'supply after the plan above 1.25 times the requirement',
    message: 'Supply is {pct} % of the need: lodging, disease and late ripening risk.',
    action: 'Cut the last dressing; growth regulators belong to a licensed adviser.',
    test: (f) =>
      f.plannedN > 0 &&
      f.requirementN > 0 &&
      f.supplyN > 1.25 * f.requirementN &&
      ['cereal', 'oilseed'].includes(f.crop.group)
        ? { pct: (100 * f.supplyN) / f.requirementN }
        : null,
  }),
  rule({
    id: 'N-30',
    level: 'stop',
    when: 'more than 25 kg N/ha planned on a nodulating legume',
    message: '{kg} kg N/ha on a well-nodulated {crop} is wasted; it switches the nodules off.',
    action: 'Only rescue if nodules fail: 30-60 kg/ha at first flower.',
    test: (f) =>
      f.fixing && !f.nodulesFailed && f.passesN > 25 ? { kg: f.passesN, crop: f.crop.name } : null,
  }),
  rule({
    id: 'P-01',
    level: 'caution',
    when: 'P or K class unknown',
    message:
      'Class of {which} unknown: replacement only; nobody knows whether this soil is rich or empty.',
    action: 'Soil test before the final plan.',
    test: (f) => {
      const which = (['P', 'K'] as const).filter(
        (x) => !f.classes[x] || f.classes[x] === 'unknown',
      );
      return which.length > 0 ? { which: which.join(' and ') } : null;
    },
  }),
  rule({
    id: 'P-02',
    level: 'caution',
    when: 'N nearly met while P yields 80 % or less',
    message:
      'Plenty of nitrogen, but very little phosphorus: the crop will disappoint. Expected {y} t/ha instead of {g}; extra N adds nothing.',
    action: 'Band P at sowing; lower N to the yield that P allows.',
    test: (f) =>
      f.ryP !== null && f.ryP <= 0.8 && f.requirementN > 0 && f.supplyN >= 0.9 * f.requirementN
        ? { y: (f.yieldGoal * f.ryP).toFixed(1), g: f.yieldGoal }
        : null,
  }),
  rule({
    id: 'P-03',
    level: 'stop',
    when: 'mineral P on a very high P soil, beyond a 5 kg starter',
    message:
      'No agronomic need for {p} kg P/ha at class very high, and runoff carries it to water.',
    action: 'At most 5 kg P/ha as starter on cold soil; manure only on a P-based rate.',
    test: (f) => (f.classes.P === 'very_high' && f.plannedP > 5 ? { p: f.plannedP } : null),
  }),
  rule({
    id: 'K-01',
    level: 'caution',
    when: 'K low, demand high and none planned',
    message: '{crop} removes {k} kg K/ha from a soil that is already low.',
    action: 'Plan K, split on sand.',
    test: (f) =>
      LOW.includes(f.classes.K ?? '') && f.crop.kDemand === 'high' && f.plannedK === 0
        ? { crop: f.crop.name, k: f.offtakeK }
        : null,
  }),
  rule({
    id: 'S-01',
    level: 'caution',
    when: 'S to bring above 10 kg/ha and soil or crop at risk',
    message: 'Expect S shortage ({s} kg/ha not covered): yellow young leaves, poor N use.',
    action: '15-30 kg/ha sulphate-S with spring N.',
    test: (f) =>
      f.sToBring > 10 && ((f.omPct ?? 9) < 2 || f.texture === 'sand' || f.crop.sDemand === 'high')
        ? { s: f.sToBring }
        : null,
  }),
  rule({
    id: 'S-02',
    level: 'caution',
    when: 'N:S of the supply too wide',
    message: 'Nitrogen outruns sulphur ({ratio}:1): N use and protein will suffer.',
    action: 'Add sulphate-S to the next N pass.',
    test: (f) => {
      const limit = f.crop.nToSMax ?? Infinity;
      return f.plannedN > 0 && f.sSupplyTotal > 0 && f.nSupplyTotal / f.sSupplyTotal > limit
        ? { ratio: f.nSupplyTotal / f.sSupplyTotal }
        : null;
    },
  }),
  rule({
    id: 'L-01',
    level: 'caution',
    when: 'something other than N limits and N is planned',
    message: 'Raising N adds nothing while {factor} holds the crop at {pct} % ({y} t/ha).',
    action: 'Repair {factor} first.',
    test: (f) =>
      f.limiting && f.limiting.factor !== 'N' && f.limiting.ry < 0.95 && f.plannedN > 0
        ? { factor: f.limiting.factor, pct: f.limiting.ry * 100, y: f.limiting.liebig.toFixed(1) }
        : null,
  }),
  rule({
    id: 'L-02',
    level: 'stop',
    when: 'pH so low that fertiliser is lost',
    message: 'Lime first: fertiliser money is largely lost at pH {ph}.',
    action: 'Work out lime, then the rest.',
    test: (f) => {
      const limit =
        f.crop.phGroup === 'sensitive' ? 5 : f.crop.phGroup === 'acid_loving' ? 3.8 : 4.5;
      return f.ph !== null && f.ph < limit ? { ph: f.ph.toFixed(1) } : null;
    },
  }),
  rule({
    id: 'L-03',
    level: 'info',
    when: 'two limits within 0.03 of each other, below 95 %',
    message: 'Repair {list} together; one alone brings little.',
    action: 'Put both into the plan.',
    test: (f) =>
      f.limiting && f.limiting.coLimiting.length > 1 && f.limiting.ry < 0.95
        ? { list: f.limiting.coLimiting.join(' and ') }
        : null,
  }),
  rule({
    id: 'C-01',
    level: 'caution',
    when: 'a ceiling cuts the dose by more than 20 kg/ha',
    message: '{cap} limits the dose to {d} kg/ha; {s} kg/ha remain unmet.',
    action: 'Lower the yield goal, or find N that the ceiling does not count.',
    test: (f) =>
      f.cap.binding && f.cap.shortfall > 20
        ? {
            cap: f.cap.binding === 'legal_cap' ? 'The legal ceiling' : 'The crop’s ceiling',
            d: f.cap.allowed,
            s: f.cap.shortfall,
          }
        : null,
  }),
  rule({
    id: 'Y-03',
    level: 'caution',
    when: 'water or stand cap the yield below 80 % of the goal',
    message:
      'Water or stand caps yield at {pct} % of the goal; N for the full goal will be left over.',
    action: 'Lower the goal to what water and stand allow.',
    test: (f) =>
      f.otherLimitRy !== null && f.otherLimitRy < 0.8 ? { pct: f.otherLimitRy * 100 } : null,
  }),
  rule({
    id: 'N-10',
    level: 'stop',
    when: 'two lines hold the same nitrogen',
    message: 'Credit claimed twice: {a} and {b} are the same nitrogen.',
    action: 'Keep the measured one; strike the other out.',
    test: (f) => (f.twice ? { a: f.twice[0], b: f.twice[1] } : null),
  }),
  rule({
    id: 'N-12',
    level: 'stop',
    when: 'nitrate sample older than a green manure that is credited by weight',
    message: 'That nitrate has moved into the cover crop.',
    action: 'Drop the sample, or the green manure.',
    test: (f) => (f.greenManure?.killedAfterSample ? {} : null),
  }),
  rule({
    id: 'N-16',
    level: 'caution',
    when: 'green manure above C:N 25 and the next crop within 4 weeks',
    message: 'The mix ties up about {x} kg N/ha until week {w}.',
    action: 'Starter of 20-40 kg N/ha, wait 3 weeks, or mow earlier.',
    test: (f) =>
      f.greenManure && f.greenManure.cn > 25 && (f.greenManure.weeksBeforePlanting ?? 0) < 4
        ? {
            x: f.greenManure.tieUpKgHa,
            w:
              f.greenManure.turnWeek === null
                ? 'far beyond this season'
                : Math.round(f.greenManure.turnWeek),
          }
        : null,
  }),
  rule({
    id: 'N-18',
    level: 'stop',
    when: 'companion or undersown legume credited to the crop that it stands in',
    message:
      'N moves to the next crop, not to the companion in the year (transfer usually < 10 %).',
    action: 'Credit it next year.',
    test: (f) => (f.companionThisSeason ? {} : null),
  }),
  rule({
    id: 'N-18b',
    level: 'caution',
    when: 'N planned on a stand with a legume in it',
    message:
      'N feeds the grass or cereal and shades out the legume: {kg} kg N/ha now costs about {x} kg/ha of fixed N.',
    action: 'Lower N, or give up the legume credit.',
    test: (f) =>
      f.legumeInStand && f.plannedN > 0 && !f.fixing ? { kg: f.plannedN, x: f.plannedN / 2 } : null,
  }),
  rule({
    id: 'N-22',
    level: 'caution',
    when: 'optimum at the edge of the trials, or price ratio outside 1.5 to 15',
    message: 'Optimum outside the data, or price ratio {pr} kg/kg looks wrong (units?).',
    action: 'Stay within the rates that were tried; check both prices.',
    test: (f) =>
      f.trials && (f.trials.atTop || f.trials.priceRatio < 1.5 || f.trials.priceRatio > 15)
        ? { pr: f.trials.priceRatio }
        : null,
  }),
  rule({
    id: 'N-24',
    level: 'caution',
    when: 'most irrigation after the run-down date',
    message: 'Water N late is late N.',
    action: 'Count what comes after the run-down date as late.',
    test: (f) => (f.waterEarlyShare !== null && f.waterEarlyShare < 0.5 ? {} : null),
  }),
  rule({
    id: 'W-01',
    level: 'caution',
    when: 'irrigation water above the usual limit of nitrate in drinking water',
    message:
      'Nitrate-N {x} mg/L is above the usual limit of drinking water (11.3 mg/L; 10 in some countries); infants are most at risk.',
    action: 'Nobody drinks from this well until it has been tested; local law decides.',
    test: (f) =>
      f.waterNitrateMgL !== null && f.waterNitrateMgL > 11.3 ? { x: f.waterNitrateMgL } : null,
  }),
  rule({
    id: 'N-31',
    level: 'caution',
    when: 'legume new to the field, or pH under 5.5',
    message: 'Check inoculant and pH before relying on fixation.',
    action: 'Inoculate with the right group; dig roots at 5-6 weeks.',
    test: (f) => (f.fixing && (f.firstTimeHere || (f.ph ?? 7) < 5.5) ? {} : null),
  }),
  rule({
    id: 'M-01',
    level: 'caution',
    when: 'mycorrhizal crop after bare fallow or a crop without fungi, P not high',
    message: 'Few mycorrhizal fungi left after {after}: P (and Zn) uptake suffers early.',
    action: 'Banded starter of 10-15 kg P/ha at safe seed distance; watch Zn.',
    test: (f) =>
      f.fungiLost !== null &&
      ['am', 'am_strong'].includes(f.crop.mycorrhizal) &&
      [...LOW, 'medium'].includes(f.classes.P ?? '')
        ? { after: f.fungiLost }
        : null,
  }),
  rule({
    id: 'M-02',
    level: 'info',
    when: 'crop without mycorrhiza on low P',
    message: 'This crop does not use mycorrhiza: it needs P by banding or its own acids.',
    action: 'Band P at sowing.',
    test: (f) => (f.crop.mycorrhizal === 'none' && LOW.includes(f.classes.P ?? '') ? {} : null),
  }),
  rule({
    id: 'M-03',
    level: 'info',
    when: 'mycorrhizal crop on very high P',
    message: 'Fungal colonisation is low; fine, skip P.',
    action: 'Nothing to do.',
    test: (f) =>
      ['am', 'am_strong'].includes(f.crop.mycorrhizal) && f.classes.P === 'very_high' ? {} : null,
  }),
  rule({
    id: 'X-01',
    level: 'caution',
    when: 'three years of hay or more with less than half of P or K returned',
    message:
      'About {p} kg P and {k} kg K/ha left with the hay and did not come back. Expect low P and K even though the roots give N; doubt an older class by {steps}.',
    action: 'Soil test before any plan.',
    test: (f) =>
      f.mined
        ? {
            p: f.mined.p,
            k: f.mined.k,
            steps:
              Math.max(f.mined.dropP, f.mined.dropK) === 2
                ? 'two steps'
                : Math.max(f.mined.dropP, f.mined.dropK) === 1
                  ? 'one step'
                  : 'less than a step',
          }
        : null,
  }),
  rule({
    id: 'C-02',
    level: 'caution',
    when: 'late N above 10 % of the requirement, on a crop that late N spoils',
    message: '{kg} kg N/ha will still be released after {stage}: {harm}.',
    action: 'Less organic N, earlier passes, or another crop here.',
    test: (f) =>
      f.late && f.late.share > 0.1 && !(f.late.share > 0.25 && f.crop.lateNSensitivity >= 3)
        ? { kg: f.late.kgHa, stage: f.late.stage, harm: f.late.harm }
        : null,
  }),
  rule({
    id: 'C-02b',
    level: 'stop',
    when: 'late N above 25 % of the requirement, on a crop that late N spoils most',
    message: '{kg} kg N/ha will still be released after {stage}: {harm}.',
    action: 'Another field or another crop.',
    test: (f) =>
      f.late && f.late.share > 0.25 && f.crop.lateNSensitivity >= 3
        ? { kg: f.late.kgHa, stage: f.late.stage, harm: f.late.harm }
        : null,
  }),
  rule({
    id: 'E-02',
    level: 'caution',
    when: 'more than 80 kg N/ha brought above what leaves',
    message: '{x} kg N/ha in excess of what leaves: much of it will reach air or water.',
    action: 'Lower the dose or add a catch crop.',
    test: (f) => (f.nBalance > 80 && f.nBalance <= 150 && !f.fixing ? { x: f.nBalance } : null),
  }),
  rule({
    id: 'E-02b',
    level: 'stop',
    when: 'more than 150 kg N/ha brought above what leaves',
    message: '{x} kg N/ha in excess of what leaves: much of it will reach air or water.',
    action: 'Lower the dose or add a catch crop.',
    test: (f) => (f.nBalance > 150 && !f.fixing ? { x: f.nBalance } : null),
  }),
  rule({
    id: 'E-03',
    level: 'caution',
    when: 'P surplus above 10 kg/ha at class very high',
    message: 'P builds up beyond use (+{p} kg/ha).',
    action: 'N-only sources, no manure here.',
    test: (f) => (f.classes.P === 'very_high' && f.pBalance > 10 ? { p: f.pBalance } : null),
  }),
  rule({
    id: 'F-01',
    level: 'caution',
    when: 'greenfeed, sorghum or silage maize with N above 1.2 times the need, after drought, frost or hail',
    message:
      'Test feed nitrate before feeding; nitrate above 0.5 % NO3 in dry matter needs dilution, above 1 % can kill cattle.',
    action: 'Test, wait, dilute; ask a veterinarian.',
    test: (f) =>
      f.stressed && f.crop.feedNitrate && f.requirementN > 0 && f.supplyN > 1.2 * f.requirementN
        ? {}
        : null,
  }),
];
/** Told beside the schools: two of them far apart. */
export interface SchoolsFacts {
  gap: { a: string; b: string; kgHa: number; cause: string } | null;
}
export const schoolsRules: readonly Rule<SchoolsFacts>[] = [
  {
    module: 'budget',
    id: 'N-20',
    level: 'info',
    when: 'two systems more than 60 kg N/ha apart',
    message:
      'Recommendation systems disagree by {kg} kg N/ha: {a} against {b}. Main cause: {cause}.',
    action: 'Choose, and leave a check strip of 0 and +40.',
    test: (f) =>
      f.gap && f.gap.kgHa > 60
        ? { a: f.gap.a, b: f.gap.b, kg: f.gap.kgHa, cause: f.gap.cause }
        : null,
  },
];
