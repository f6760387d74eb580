import type { Material } from '../reference/organicMaterials';
import type { Rule } from '../rules/rule';
import type { Analysis } from './release';

/** One application as the rules see it. */
export interface ApplicationFacts {
  material: Material;
  analysis: Analysis;
  labBroken: string[];
  done: boolean;
  rateTHa: number;
  rateM3Ha: number | null;
  maxPracticalM3Ha: number | null;
  tanKgHa: number;
  lossFrac: number;
  lossPlannedFrac: number;
  lostKgHa: number;
  lostMoney: number;
  plannedHours: number | null;
  coveredHours: number | null;
  autumn: boolean;
  panKgHa: number;
  needKgHa: number;
  pSuppliedKgHa: number;
  pOfftakeKgHa: number;
  pTest: number | null;
  pCautionAt: number | null;
  pScreenAt: number | null;
  daysToPlanting: number | null;
  daysToHarvest: number | null;
  eatenRaw: boolean;
  touchesSoil: boolean;
  intervalD: number;
  certified: boolean;
  cropName: string;
  tieUp: boolean;
}
export interface HistoryFacts {
  history: 'unknown' | 'none' | 'yes';
  earlierCount: number;
  estimateKgHa: number;
}

const rule = <F>(r: Omit<Rule<F>, 'module'>): Rule<F> => ({ module: 'organics', ...r });
const breaks = (id: string, level: 'stop' | 'caution', when: string, message: string, action: string): Rule<ApplicationFacts> => rule({
  id, level, when, message, action,
  test: (f) => (f.labBroken.includes(id) ? { nh4: f.analysis.nh4NKgT, total: f.analysis.totalNKgT, dm: f.analysis.dmPct, form: f.material.physicalForm.replace('_', ' ') } : null),
});

/** Ammonia loads and gaps of chapter 2's parameter table. */
const HOT_TAN_KG_HA = 80;
const PLANTING_GAP_D = 14;

export const applicationRules: readonly Rule<ApplicationFacts>[] = [
  rule({ id: 'M01', level: 'info', when: 'N, P or K is the book value', message: 'Book value used for {material} ({which}): real loads differ by 30 to 50 %.', action: 'Sample 8 to 10 spots or agitate and sample the tank; send to a laboratory; replace the value.',
    test: (f) => { const which = f.analysis.fromBook.filter((x) => ['N', 'P', 'K'].includes(x)); return which.length > 0 ? { material: f.material.name, which: which.join(', ') } : null; } }),
  breaks('M03', 'stop', 'ammonium-N above total N', 'Ammonium-N ({nh4}) exceeds total N ({total}): one of them has the wrong unit or basis.', 'Check units, NH4 against NH4-N (x 0.7765), dry against as-received, and TKN against total.'),
  breaks('M04', 'stop', 'ammonium-N plus nitrate-N above total N', 'Ammonium-N plus nitrate-N exceed total N.', 'If the laboratory gives Kjeldahl N, total N = TKN + nitrate-N.'),
  breaks('M05', 'stop', 'dry matter impossible for the form', 'Dry matter {dm} % is impossible for a {form}.', 'Check whether moisture was typed instead of dry matter (moisture = 100 - DM).'),
  breaks('M06', 'caution', 'dry matter unusual for the form', 'Dry matter {dm} % is unusual for a {form}.', 'Check sample, agitation and form.'),
  breaks('M09', 'stop', 'nutrients above 90 % of the dry matter', 'The nutrients add up to more than the dry matter can hold.', 'Check units and basis.'),
  rule({ id: 'N01', level: 'caution', when: 'incorporation late or missing', message: 'Incorporation skipped or late: {lost_kg} kg N/ha, worth {lost_money}, went to the air.', action: 'Work it in within {hours} h next time; lower the N credit now, and top up from the tissue or soil test.',
    test: (f) => (f.done && f.plannedHours !== null && (f.coveredHours === null || f.coveredHours > f.plannedHours) && f.lostKgHa > 0 ? { lost_kg: f.lostKgHa, lost_money: f.lostMoney, hours: f.plannedHours } : null) }),
  rule({ id: 'N02', level: 'caution', when: 'over 40 % of more than 30 kg ammonium-N lost', message: 'Over 40 % of the ammonium ({kg} kg N/ha) is expected to evaporate.', action: 'Spread in the evening, in cool calm weather, band or inject, or work in sooner.',
    test: (f) => (f.lossFrac > 0.4 && f.tanKgHa > 30 ? { kg: f.lossFrac * f.tanKgHa } : null) }),
  rule({ id: 'N06', level: 'caution', when: 'material ties N up', message: 'This material will take about {kg} kg N/ha out of the soil first.', action: 'Add that much soluble N, wait 6 to 8 weeks, or leave it as surface mulch.', test: (f) => (f.tieUp ? { kg: Math.abs(f.panKgHa) } : null) }),
  rule({ id: 'N07', level: 'caution', when: 'available N above the need by more than 10 %', message: 'Available N {pan} exceeds the need {need} by {over} kg/ha.', action: 'Lower the rate or choose another field.',
    test: (f) => (f.panKgHa > f.needKgHa * 1.1 && f.panKgHa > 0 ? { pan: f.panKgHa, need: f.needKgHa, over: f.panKgHa - f.needKgHa } : null) }),
  rule({ id: 'R01', level: 'stop', when: 'soil-test P at or above the screen and the rate brings more than the off-take', message: 'Soil-test P is {p} mg/kg: this rate would add {surplus} kg P/ha above off-take.', action: 'Use the P basis (off-take or less, or none), export the manure, or use a low-P material; the licensed planner may set a P index instead.',
    test: (f) => (f.pTest !== null && f.pScreenAt !== null && f.pTest >= f.pScreenAt && f.pSuppliedKgHa > f.pOfftakeKgHa ? { p: f.pTest, surplus: f.pSuppliedKgHa - f.pOfftakeKgHa } : null) }),
  rule({ id: 'R02', level: 'caution', when: 'soil-test P between caution and screen and the rate brings more than the off-take', message: 'Soil-test P is {p} mg/kg: P basis is advised.', action: 'Use the P rate, or document why N basis is used and retest in 2 years.',
    test: (f) => (f.pTest !== null && f.pCautionAt !== null && f.pScreenAt !== null && f.pTest >= f.pCautionAt && f.pTest < f.pScreenAt && f.pSuppliedKgHa > f.pOfftakeKgHa ? { p: f.pTest } : null) }),
  rule({ id: 'R03', level: 'caution', when: 'soil-test P unknown', message: 'No soil-test P: the P basis cannot be judged.', action: 'Take a soil sample before the second manure application.', test: (f) => (f.pTest === null ? {} : null) }),
  rule({ id: 'R04', level: 'caution', when: 'P supplied more than 10 kg/ha above off-take', message: 'P builds up: +{kg} kg P/ha.', action: 'Alternate with P-free N, rotate fields, or apply every 2nd or 3rd year.', test: (f) => (f.pSuppliedKgHa - f.pOfftakeKgHa > 10 ? { kg: f.pSuppliedKgHa - f.pOfftakeKgHa } : null) }),
  rule({ id: 'R07', level: 'caution', when: 'liquid rate over the practical limit of the method', message: '{rate} m3/ha ({mm} mm) in one pass is over the practical limit {lim} m3/ha of this method.', action: 'Split into passes at least 3 weeks apart, or inject deeper; watch drain outlets during and after spreading.',
    test: (f) => (f.rateM3Ha !== null && f.maxPracticalM3Ha !== null && f.rateM3Ha > f.maxPracticalM3Ha && f.rateM3Ha <= 1.5 * f.maxPracticalM3Ha ? { rate: f.rateM3Ha, mm: f.rateM3Ha / 10, lim: f.maxPracticalM3Ha } : null) }),
  rule({ id: 'R17', level: 'stop', when: 'liquid rate over 1.5 times the practical limit', message: '{rate} m3/ha will run off, pond or go down cracks into the drains.', action: 'Stop; block the drain outlet if it can be done safely; report as local law requires.',
    test: (f) => (f.rateM3Ha !== null && f.maxPracticalM3Ha !== null && f.rateM3Ha > 1.5 * f.maxPracticalM3Ha ? { rate: f.rateM3Ha } : null) }),
  rule({ id: 'S16', level: 'caution', when: 'more than 80 kg ammonium-N within 14 days of planting', message: '{kg} kg/ha of ammonium-N {days} days before planting.', action: 'Safe for maize and cereals if mixed through moist soil; keep seed off the bands; longer gap in cold, dry or sandy soil.',
    test: (f) => (f.tanKgHa > HOT_TAN_KG_HA && f.daysToPlanting !== null && f.daysToPlanting >= 0 && f.daysToPlanting < PLANTING_GAP_D ? { kg: f.tanKgHa, days: f.daysToPlanting } : null) }),
  rule({ id: 'F01', level: 'stop', when: 'raw manure too close to the harvest of a crop that may be eaten raw', message: '{material} {days} days before harvest of {crop}: at least {need} days are wanted.', action: 'Change crop, date or material (compost with time-temperature records). Buyer or local food-safety rules may ask for more.',
    test: (f) => (f.eatenRaw && f.intervalD > 0 && f.daysToHarvest !== null && f.daysToHarvest < f.intervalD ? { material: f.material.name, days: f.daysToHarvest, crop: f.cropName, need: f.intervalD } : null) }),
  rule({ id: 'F03', level: 'caution', when: 'interval to harvest cannot be checked', message: 'The interval from {material} to harvest cannot be checked.', action: 'Enter the first harvest date; until then plan with the longer interval.', test: (f) => (f.eatenRaw && f.intervalD > 0 && f.daysToHarvest === null ? { material: f.material.name } : null) }),
  rule({ id: 'O01', level: 'stop', when: 'material not allowed on certified land', message: '{material} may not be used on certified organic land.', action: 'Choose another material; the certifier decides.', test: (f) => (f.certified && f.material.organicStatus === 'not allowed' ? { material: f.material.name } : null) }),
  rule({ id: 'O02', level: 'stop', when: 'certifier has to be asked', message: 'Ask the certifier in writing before buying {material}.', action: 'Record the answer.', test: (f) => (f.certified && f.material.organicStatus === 'check certifier' ? { material: f.material.name } : null) }),
  rule({ id: 'O03', level: 'caution', when: 'material restricted on certified land', message: '{material}: raw manure interval, origin or rate limits apply.', action: 'Check interval, source farm and total N limit.', test: (f) => (f.certified && f.material.organicStatus === 'restricted' ? { material: f.material.name } : null) }),
  rule({ id: 'S10', level: 'caution', when: 'a liquid store is emptied', message: 'Agitating slurry sets hydrogen sulphide free: a few breaths of a high dose kill, and the nose does not warn.', action: 'People and animals out of the building, full ventilation, no flames, gas alarm; never go in after a collapsed person: call emergency services.', test: (f) => (!f.done && f.material.physicalForm === 'slurry' ? {} : null) }),
];

export const historyRules: readonly Rule<HistoryFacts>[] = [
  rule({ id: 'N04', level: 'caution', when: 'manure in the last 4 years but none entered', message: "Last years' manure is missing from the budget: about {kg} kg N/ha comes from it.", action: 'Enter the applications of the last 4 crop years or ask the owner.', test: (f) => (f.history === 'yes' && f.earlierCount === 0 ? { kg: f.estimateKgHa } : null) }),
  rule({ id: 'N05', level: 'info', when: 'manure history unknown', message: 'No manure history: residual N taken as zero.', action: 'Ask the owner; an unexpectedly high nitrate test is a clue.', test: (f) => (f.history === 'unknown' && f.earlierCount === 0 ? {} : null) }),
];
