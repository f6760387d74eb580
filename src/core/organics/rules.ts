import type { Material } from '../book/organicMaterials';
import { brokenOf, uncheckedOf, type AppliedInterval } from './intervals';
import type { Rule } from '../rules/rule';
import { HOT_GAP_D, HOT_NH4_KG_HA, isHot, PLANTING_GAP_D } from './site';

/** One application as the rules see it, per hectare; what nobody looked at is null. */
export interface ApplicationFacts {
  material: Material;
  done: boolean;
  liquid: boolean;
  rateTHa: number;
  rateM3Ha: number | null;
  maxPracticalM3Ha: number | null;
  machine: { min: number; max: number; rate: number } | null;
  nh4Share: number;
  tanKgHa: number;
  mineralKgHa: number;
  lossFrac: number;
  lossPlannedFrac: number;
  lostKgHa: number;
  lostMoney: number;
  plannedHours: number | null;
  coveredHours: number | null;
  autumn: boolean;
  soilTempC: number | null;
  soilSaturated: boolean;
  sandy: boolean;
  uptakeWeeks: number | null;
  panKgHa: number;
  needKgHa: number;
  pSuppliedKgHa: number;
  pOfftakeKgHa: number;
  pRise: { mgKgYr: number; yearsToScreen: number | null } | null;
  pTest: number | null;
  pCautionAt: number | null;
  pScreenAt: number | null;
  highClasses: string[];
  grass: boolean;
  kBalanceKgHa: number;
  school: string | null;
  manureNYearKgHa: number;
  manureNLimitKgHa: number | null;
  daysToPlanting: number | null;
  smallSeeded: boolean;
  /** Intervals to harvest and to the next cut that hold for this dressing. */
  intervals: AppliedInterval[];
  certified: boolean;
  certifierApproval: boolean;
  heatRecords: boolean | null;
  permit: boolean;
  cropName: string;
  tieUp: boolean;
  closed: { from: string; to: string } | null;
  near: { feature: string; metres: number; need: number; level: 'stop' | 'caution' }[];
  metals: { name: string; kgHa: number; warn: number; limit: number }[];
  ashWithAmmonium: boolean;
  touchesSeed: boolean;
  ponding: boolean;
  windToRawCrop: boolean;
  hoseOnRoad: boolean;
  dose: {
    costPerKgN: number | null;
    nPrice: number;
    netPerT: number | null;
    km: number;
    breakevenKm: number;
  } | null;
  yieldBonusPct: number;
}
export interface HistoryFacts {
  history: 'unknown' | 'none' | 'yes';
  earlierCount: number;
  estimateKgHa: number;
}

const rule = <F>(r: Omit<Rule<F>, 'module'>): Rule<F> => ({ module: 'organics', ...r });
/** Ammonium share of N from which a manure counts as rich in ammonium (chapter 2, N03). */
const HOT_SHARE = 0.3;
const nearPlanting = (f: ApplicationFacts): boolean =>
  f.tanKgHa > HOT_NH4_KG_HA &&
  f.daysToPlanting !== null &&
  f.daysToPlanting >= 0 &&
  f.daysToPlanting < PLANTING_GAP_D;
const burns = (f: ApplicationFacts): boolean =>
  nearPlanting(f) && ((isHot(f.material) && (f.daysToPlanting ?? 99) < HOT_GAP_D) || f.smallSeeded);

/** Raw manure on certified land has a rule of its own, which says it once. */
const rawOnCertified = (f: ApplicationFacts): boolean =>
  f.certified && f.intervals.some((x) => x.ofRaw && x.needD > 0);
function brokenFacts(f: ApplicationFacts, level: 'stop' | 'caution') {
  const broken = brokenOf(f.intervals, level)[0];
  return broken
    ? {
        material: f.material.name,
        days: broken.days ?? 0,
        to: broken.to,
        crop: f.cropName,
        need: broken.needD,
      }
    : null;
}

/** How far the water-protection screen is; years are told as "at least". */
function screenWords(years: number | null): string {
  if (years === null) return 'how many years to the screen is not known';
  if (years <= 0) return 'the screen is reached already';
  if (years < 1) return 'the screen is less than a year away';
  return `at least ${Math.floor(years)} years to the screen`;
}

export const applicationRules: readonly Rule<ApplicationFacts>[] = [
  rule({
    id: 'N01',
    level: 'caution',
    when: 'incorporation late or missing',
    message:
      'Incorporation skipped or late: {lost_kg} kg N/ha, worth {lost_money}, went to the air.',
    action:
      'Work it in within {hours} h next time; lower the N credit now, and top up from the tissue or soil test.',
    test: (f) =>
      f.done &&
      f.plannedHours !== null &&
      (f.coveredHours === null || f.coveredHours > f.plannedHours) &&
      f.lostKgHa > 0
        ? { lost_kg: f.lostKgHa, lost_money: f.lostMoney, hours: f.plannedHours }
        : null,
  }),
  rule({
    id: 'N02',
    level: 'caution',
    when: 'over 40 % of more than 30 kg ammonium-N lost',
    message: 'Over 40 % of the ammonium ({kg} kg N/ha) is expected to evaporate.',
    action: 'Spread in the evening, in cool calm weather, band or inject, or work in sooner.',
    test: (f) => (f.lossFrac > 0.4 && f.tanKgHa > 30 ? { kg: f.lossFrac * f.tanKgHa } : null),
  }),
  rule({
    id: 'N06',
    level: 'caution',
    when: 'material ties N up',
    message: 'This material will take about {kg} kg N/ha out of the soil first.',
    action: 'Add that much soluble N, wait 6 to 8 weeks, or leave it as surface mulch.',
    test: (f) => (f.tieUp ? { kg: Math.abs(f.panKgHa) } : null),
  }),
  rule({
    id: 'N07',
    level: 'caution',
    when: 'available N above the need by more than 10 %',
    message: 'Available N {pan} exceeds the need {need} by {over} kg/ha.',
    action: 'Lower the rate or choose another field; see which crops late N harms.',
    test: (f) =>
      f.panKgHa > f.needKgHa * 1.1 && f.panKgHa > 0
        ? { pan: f.panKgHa, need: f.needKgHa, over: f.panKgHa - f.needKgHa }
        : null,
  }),
  rule({
    id: 'R01',
    level: 'stop',
    when: 'soil-test P at or above the screen and the rate brings more than the off-take',
    message: 'Soil-test P is {p} mg/kg: this rate would add {surplus} kg P/ha above off-take.',
    action:
      'Use the P basis (off-take or less, or none), export the manure, or use a low-P material; the licensed planner may set a P index instead.',
    test: (f) =>
      f.pTest !== null &&
      f.pScreenAt !== null &&
      f.pTest >= f.pScreenAt &&
      f.pSuppliedKgHa > f.pOfftakeKgHa
        ? { p: f.pTest, surplus: f.pSuppliedKgHa - f.pOfftakeKgHa }
        : null,
  }),
  rule({
    id: 'R02',
    level: 'caution',
    when: 'soil-test P between caution and screen and the rate brings more than the off-take',
    message: 'Soil-test P is {p} mg/kg: P basis is advised.',
    action: 'Use the P rate, or document why N basis is used and retest in 2 years.',
    test: (f) =>
      f.pTest !== null &&
      f.pCautionAt !== null &&
      f.pScreenAt !== null &&
      f.pTest >= f.pCautionAt &&
      f.pTest < f.pScreenAt &&
      f.pSuppliedKgHa > f.pOfftakeKgHa
        ? { p: f.pTest }
        : null,
  }),
  rule({
    id: 'R03',
    level: 'caution',
    when: 'soil-test P unknown',
    message: 'No soil-test P: the P basis cannot be judged.',
    action: 'Take a soil sample before the second manure application.',
    test: (f) => (f.pTest === null ? {} : null),
  }),
  rule({
    id: 'R04',
    level: 'caution',
    when: 'P supplied more than 10 kg/ha above off-take',
    message: 'P builds up: +{kg} kg P/ha a year, about +{mgkg} mg/kg in the soil test; {screen}.',
    action: 'Alternate with P-free N, rotate fields, or apply every 2nd or 3rd year.',
    test: (f) =>
      f.pSuppliedKgHa - f.pOfftakeKgHa > 10
        ? {
            kg: f.pSuppliedKgHa - f.pOfftakeKgHa,
            mgkg: f.pRise?.mgKgYr ?? 'an unknown figure',
            screen: screenWords(f.pRise?.yearsToScreen ?? null),
          }
        : null,
  }),
  rule({
    id: 'R07',
    level: 'caution',
    when: 'liquid rate over the practical limit of the method',
    message:
      '{rate} m3/ha ({mm} mm) in one pass is over the practical limit {lim} m3/ha of this method.',
    action:
      'Split into passes at least 3 weeks apart, or inject deeper; watch drain outlets during and after spreading.',
    test: (f) =>
      f.rateM3Ha !== null &&
      f.maxPracticalM3Ha !== null &&
      f.rateM3Ha > f.maxPracticalM3Ha &&
      f.rateM3Ha <= 1.5 * f.maxPracticalM3Ha
        ? { rate: f.rateM3Ha, mm: f.rateM3Ha / 10, lim: f.maxPracticalM3Ha }
        : null,
  }),
  rule({
    id: 'R17',
    level: 'stop',
    when: 'liquid rate over 1.5 times the practical limit, or liquid seen to run or pond',
    message: '{rate} m3/ha will run off, pond or go down cracks into the drains.',
    action: 'Stop; block the drain outlet if it can be done safely; report as local law requires.',
    test: (f) =>
      (f.rateM3Ha !== null &&
        f.maxPracticalM3Ha !== null &&
        f.rateM3Ha > 1.5 * f.maxPracticalM3Ha) ||
      (f.ponding && f.rateM3Ha !== null)
        ? { rate: f.rateM3Ha ?? 0 }
        : null,
  }),
  rule({
    id: 'S01',
    level: 'stop',
    when: 'hot fresh manure within 7 days of planting, or within 14 for small seeds and transplants',
    message:
      'Fresh high-N manure {days} days before planting: {kg} kg/ha of ammonia-forming N can burn seed and roots.',
    action: `Wait ${PLANTING_GAP_D} days with moist soil, mix through 10-15 cm, plant at least 15 cm beside the band, or use mature compost.`,
    test: (f) => (burns(f) ? { kg: f.tanKgHa, days: f.daysToPlanting ?? 0 } : null),
  }),
  rule({
    id: 'S16',
    level: 'caution',
    when: 'more than 80 kg ammonium-N within 14 days of planting',
    message: '{kg} kg/ha of ammonium-N {days} days before planting.',
    action:
      'Safe for maize and cereals if mixed through moist soil; keep seed off the bands; longer gap in cold, dry or sandy soil.',
    test: (f) =>
      nearPlanting(f) && !burns(f) ? { kg: f.tanKgHa, days: f.daysToPlanting ?? 0 } : null,
  }),
  rule({
    id: 'F01',
    level: 'stop',
    takesOut: true,
    when: 'spread too close to harvest, cutting or grazing, by material class and how the crop is eaten',
    message: '{material} {days} days before {to} of {crop}: at least {need} days are wanted.',
    action:
      'Change crop, date or material (compost with time-temperature records). Buyer or local food-safety rules may ask for more.',
    test: (f) => (rawOnCertified(f) ? null : brokenFacts(f, 'stop')),
  }),
  rule({
    id: 'F04',
    level: 'caution',
    when: 'spread too close to harvest, cutting or grazing, where the table asks for care',
    message: '{material} {days} days before {to} of {crop}: {need} days are wanted.',
    action: 'Spread earlier, cut later, or use a treated material.',
    test: (f) => brokenFacts(f, 'caution'),
  }),
  rule({
    id: 'F03',
    level: 'caution',
    when: 'interval to harvest cannot be checked',
    message: 'The {need} days from {material} to {to} cannot be checked.',
    action: 'Enter the first harvest date; until then plan with the longer interval.',
    test: (f) => {
      const open = uncheckedOf(f.intervals);
      return open ? { material: f.material.name, need: open.needD, to: open.to } : null;
    },
  }),
  rule({
    id: 'O01',
    level: 'stop',
    takesOut: true,
    when: 'material not allowed on certified land',
    message: '{material} may not be used on certified organic land.',
    action: 'Choose another material; the certifier decides.',
    test: (f) =>
      f.certified && f.material.organicStatus === 'not allowed'
        ? { material: f.material.name }
        : null,
  }),
  rule({
    id: 'O02',
    level: 'stop',
    when: 'certifier has to be asked',
    message: 'Ask the certifier in writing before buying {material}.',
    action: 'Record the answer.',
    test: (f) =>
      f.certified && f.material.organicStatus === 'check certifier' && !f.certifierApproval
        ? { material: f.material.name }
        : null,
  }),
  rule({
    id: 'O03',
    level: 'caution',
    when: 'material restricted on certified land',
    message: '{material}: raw manure interval, origin or rate limits apply.',
    action: 'Check interval, source farm and total N limit.',
    test: (f) =>
      f.certified && f.material.organicStatus === 'restricted'
        ? { material: f.material.name }
        : null,
  }),
  rule({
    id: 'S10',
    level: 'caution',
    when: 'a liquid store is emptied',
    message:
      'Agitation sets hydrogen sulphide free: over 100 ppm it numbs the sense of smell, over 500 to 1000 ppm it fells a person within a few breaths. Methane explodes; ammonia and carbon dioxide suffocate.',
    action:
      'People and animals out of the building, full ventilation, no flames, personal gas alarm (H2S 10 ppm); never go in after a collapsed person: call emergency services. Entry only with supplied air, harness and a trained team outside.',
    test: (f) => (!f.done && f.liquid && f.material.physicalForm === 'slurry' ? {} : null),
  }),
  rule({
    id: 'N03',
    level: 'caution',
    when: 'ammonium manure in autumn on soil above 10 °C',
    message: 'Soil is {t} °C: ammonium will nitrify and can leach before spring.',
    action:
      'Wait until it is under 10 °C and falling, add an inhibitor, keep a cover crop, or move to spring.',
    test: (f) =>
      f.autumn && f.soilTempC !== null && f.soilTempC > 10 && f.nh4Share >= HOT_SHARE
        ? { t: f.soilTempC }
        : null,
  }),
  rule({
    id: 'N09',
    level: 'info',
    when: 'another method of manure N than the default',
    message: 'This manure is credited by another method than the default: {school}.',
    action: 'Compare with the default before signing.',
    test: (f) => (f.school ? { school: f.school } : null),
  }),
  rule({
    id: 'N11',
    level: 'caution',
    when: 'fresh high-ammonium slurry on saturated soil above 10 °C',
    message: 'Much of the N is lost as gas on wet soil.',
    action: 'Wait for drier soil.',
    test: (f) =>
      f.liquid && f.nh4Share >= HOT_SHARE && f.soilSaturated && (f.soilTempC ?? 0) > 10 ? {} : null,
  }),
  rule({
    id: 'N12',
    level: 'caution',
    when: 'high-N material before planting on sand, for a crop that takes N up beyond 8 weeks',
    message: 'Early N on sand: {kg} kg N/ha is at risk before uptake.',
    action: 'Split: part at planting, part side-dressed.',
    test: (f) =>
      f.sandy &&
      f.nh4Share >= HOT_SHARE &&
      f.mineralKgHa > 20 &&
      f.daysToPlanting !== null &&
      f.daysToPlanting >= 0 &&
      (f.uptakeWeeks ?? 0) > 8
        ? { kg: f.mineralKgHa }
        : null,
  }),
  rule({
    id: 'R05',
    level: 'caution',
    when: 'rate below what the machine spreads evenly',
    message: 'The machine cannot spread {rate} evenly (minimum {min}).',
    action:
      'A multi-year P rate, another machine, pelleted material, a mix with a poorer material, or another field.',
    test: (f) =>
      f.machine && f.machine.rate > 0 && f.machine.rate < f.machine.min
        ? { rate: f.machine.rate, min: f.machine.min }
        : null,
  }),
  rule({
    id: 'R06',
    level: 'info',
    when: 'rate above what the machine spreads in a pass',
    message: '{n} passes are needed.',
    action: 'Plan the passes; watch compaction.',
    test: (f) =>
      f.machine && f.machine.rate > f.machine.max
        ? { n: Math.ceil(f.machine.rate / f.machine.max - 1e-9) }
        : null,
  }),
  rule({
    id: 'R08',
    level: 'stop',
    when: 'total N of manure above the yearly limit, where one is set',
    message: 'Total N from manure {n} kg/ha exceeds the limit {limit}.',
    action: 'Lower the rate; include grazing excreta where the rule says so.',
    test: (f) =>
      f.manureNLimitKgHa !== null && f.manureNYearKgHa > f.manureNLimitKgHa
        ? { n: f.manureNYearKgHa, limit: f.manureNLimitKgHa }
        : null,
  }),
  rule({
    id: 'R09',
    level: 'caution',
    when: 'K surplus above 150 kg/ha on grass',
    message: 'K surplus {k} kg/ha: grass tetany (low Mg) risk where cattle graze in spring.',
    action:
      'No K-rich slurry before spring grazing; a forage ratio K/(Ca+Mg) over 2.2 is the danger line. Ask a veterinarian.',
    test: (f) => (f.grass && f.kBalanceKgHa > 150 ? { k: f.kBalanceKgHa } : null),
  }),
  rule({
    id: 'R12',
    level: 'caution',
    when: 'yield bonus above 5 % believed in',
    message: 'A yield bonus of {pct} % is a belief, not a nutrient effect.',
    action: 'Keep below 5 % unless your own strips with a control show it.',
    test: (f) => (f.yieldBonusPct > 5 ? { pct: f.yieldBonusPct } : null),
  }),
  rule({
    id: 'R13',
    level: 'caution',
    when: 'available N dearer than 1.5 times bought N',
    message: 'N from this material costs {x} times as much as bought N after hauling.',
    action: 'Look at the nearer fields, thicker material, or value P, K, S and organic matter too.',
    test: (f) =>
      f.dose && f.dose.costPerKgN !== null && f.dose.costPerKgN > 1.5 * f.dose.nPrice
        ? { x: f.dose.costPerKgN / f.dose.nPrice }
        : null,
  }),
  rule({
    id: 'R14',
    level: 'caution',
    when: 'hauled at a loss',
    message: 'Hauled to {km} km the nutrients are worth less than the trip.',
    action:
      'Break-even distance is {km_be} km. If it must leave the store anyway compare with the next-best field.',
    test: (f) =>
      f.dose && f.dose.netPerT !== null && f.dose.netPerT < 0
        ? { km: f.dose.km, km_be: f.dose.breakevenKm }
        : null,
  }),
  rule({
    id: 'R15',
    level: 'caution',
    when: 'P or K of a manure where the soil test is high',
    message: '{which} of this material has no yield value here at this soil test.',
    action: 'Value it at zero, or as an asset of the soil for later years.',
    test: (f) =>
      f.highClasses.length > 0 && f.panKgHa > 0 ? { which: f.highClasses.join(' and ') } : null,
  }),
  rule({
    id: 'S02',
    level: 'stop',
    when: 'fresh, strong material against seed or transplant roots',
    message: 'Salt and ammonia injury near roots.',
    action: 'Keep it 5-10 cm away or mix it through the layer.',
    test: (f) => (f.touchesSeed && (f.tanKgHa > 20 || f.material.class === 'poultry') ? {} : null),
  }),
  rule({
    id: 'S08',
    level: 'stop',
    takesOut: true,
    when: 'spreading ammonium-rich manure in a closed period',
    message: 'Closed period {from} to {to}.',
    action: 'Wait; the local rule beats this program.',
    test: (f) => (f.closed && f.nh4Share >= HOT_SHARE ? f.closed : null),
  }),
  rule({
    id: 'S09',
    level: 'stop',
    when: 'nearer to water or a well than the setback',
    message: 'Setback to {feature} is {m} m (needs {need} m).',
    action: 'Leave that strip out.',
    test: (f) => {
      const n = f.near.find((x) => x.level === 'stop');
      return n ? { feature: n.feature, m: n.metres, need: n.need } : null;
    },
  }),
  rule({
    id: 'S09b',
    level: 'caution',
    when: 'nearer to a house, road or boundary than the setback',
    message: 'Setback to {feature} is {m} m (needs {need} m).',
    action: 'Leave that strip out.',
    test: (f) => {
      const n = f.near.find((x) => x.level === 'caution');
      return n ? { feature: n.feature, m: n.metres, need: n.need } : null;
    },
  }),
  rule({
    id: 'S11',
    level: 'stop',
    when: 'biosolids without permit and batch metals on file',
    message: 'Biosolids need a permit, metal results of each batch and site restrictions on file.',
    action: 'Leave to the licensed generator and planner.',
    test: (f) => (f.material.class === 'biosolids' && !f.permit ? {} : null),
  }),
  rule({
    id: 'S12',
    level: 'caution',
    when: 'yearly Cu, Zn or Cd above the warn level',
    message: '{metal} load {x} kg/ha a year.',
    action: 'Reduce the rate, change the feed or source.',
    test: (f) => {
      const m = f.metals.find((x) => x.kgHa > x.warn);
      return m ? { metal: m.name, x: m.kgHa.toFixed(2) } : null;
    },
  }),
  rule({
    id: 'S13',
    level: 'stop',
    when: 'biosolids above a legal limit of metals',
    message: '{metal} load exceeds the legal limit ({x} of {limit} kg/ha a year, ten-year mean).',
    action: 'Stop.',
    test: (f) => {
      const m =
        f.material.class === 'biosolids' ? f.metals.find((x) => x.kgHa > x.limit) : undefined;
      return m ? { metal: m.name, x: m.kgHa.toFixed(2), limit: m.limit } : null;
    },
  }),
  rule({
    id: 'S14',
    level: 'stop',
    takesOut: true,
    when: 'ash or limed material with, or within 21 days of, ammonium',
    message: 'Ash drives off ammonia and irritates lungs and eyes.',
    action: 'Keep at least 21 days apart; dust mask, goggles and gloves for ash.',
    test: (f) => (f.ashWithAmmonium ? {} : null),
  }),
  rule({
    id: 'S15',
    level: 'caution',
    when: 'a drag-hose crosses a road',
    message: 'Hose bursts and crossings are dangerous.',
    action:
      'Guard, ramp, radio, cut-off; keep off the road without the road authority’s permission.',
    test: (f) => (f.hoseOnRoad ? {} : null),
  }),
  rule({
    id: 'O04',
    level: 'stop',
    takesOut: true,
    when: 'raw manure too close to harvest on certified land',
    message: 'Raw manure {d} days before harvest: needs {need} days.',
    action: 'Change the crop or use compost with records.',
    test: (f) => {
      const broken = rawOnCertified(f) ? brokenOf(f.intervals, 'stop')[0] : undefined;
      return broken ? { d: broken.days ?? 0, need: broken.needD } : null;
    },
  }),
  rule({
    id: 'O05',
    level: 'stop',
    takesOut: true,
    when: 'compost without time and temperature records on certified land',
    message: 'Without records this is raw manure.',
    action: 'Obtain the record or treat as raw.',
    test: (f) =>
      f.certified && f.material.pathogenClass === 'treated_compost' && f.heatRecords !== true
        ? {}
        : null,
  }),
  rule({
    id: 'F02',
    level: 'stop',
    when: 'spreading with wind toward a crop eaten raw',
    message: 'Drift and splash carry pathogens.',
    action: 'Do not.',
    test: (f) => (f.windToRawCrop && f.material.pathogenClass !== 'plant_only' ? {} : null),
  }),
];

/** What all dressings of a season together do to the sheet. */
export interface MixFacts {
  over: { name: string; kg: number; pct: number };
  short: string[];
}
export const mixRules: readonly Rule<MixFacts>[] = [
  rule({
    id: 'R10',
    level: 'caution',
    when: 'P, K or S over-supplied by more than 25 %',
    message: '{nutrient} over by {kg} kg/ha, {pct} % of what the crop needs.',
    action: 'Look at what the most limiting basis would be.',
    test: (f) =>
      f.over.pct > 25 ? { nutrient: f.over.name, kg: f.over.kg, pct: f.over.pct } : null,
  }),
  rule({
    id: 'R11',
    level: 'info',
    when: 'a nutrient still to apply after manure and passes',
    message: 'Still to apply, kg/ha: {list}.',
    action: 'Top up with fertiliser.',
    test: (f) => (f.short.length > 0 ? { list: f.short.join(', ') } : null),
  }),
];

/**
 * What all manure and compost, of this season and of earlier ones, still release after the crop
 * should run short of N.
 */
export interface LateReleaseFacts {
  late: { kgHa: number; limit: number; from: string; why: string } | null;
}
export const lateReleaseRules: readonly Rule<LateReleaseFacts>[] = [
  rule({
    id: 'N08',
    level: 'caution',
    when: 'more N released late than the crop bears',
    message: '{kg} kg N/ha will be released after {stage}: {why}.',
    action: 'Less or earlier material, a soluble base dressing instead, or a nitrogen-hungry crop.',
    test: (f) =>
      f.late && f.late.kgHa > f.late.limit
        ? { kg: f.late.kgHa, stage: f.late.from, why: f.late.why }
        : null,
  }),
];

/** A rate that pays P ahead. */
export interface AheadFacts {
  pYears: number;
  /** The P of so many years would bring more N than its own year can use. */
  overN: boolean;
}
export const aheadRules: readonly Rule<AheadFacts>[] = [
  rule({
    id: 'R16',
    level: 'stop',
    when: 'P paid ahead for years at a rate above the N need',
    message: 'A P rate for {years} years may not exceed the N need of the year it is applied.',
    action: 'Use fewer years.',
    test: (f) => (f.pYears > 1 && f.overN ? { years: f.pYears } : null),
  }),
];

export const historyRules: readonly Rule<HistoryFacts>[] = [
  rule({
    id: 'N04',
    level: 'caution',
    when: 'manure in the last 4 years but none entered',
    message: "Last years' manure is missing from the budget: about {kg} kg N/ha comes from it.",
    action: 'Enter the applications of the last 4 crop years or ask the owner.',
    test: (f) => (f.history === 'yes' && f.earlierCount === 0 ? { kg: f.estimateKgHa } : null),
  }),
  rule({
    id: 'N05',
    level: 'info',
    when: 'manure history unknown',
    message: 'No manure history: residual N taken as zero.',
    action: 'Ask the owner; an unexpectedly high nitrate test is a clue.',
    test: (f) => (f.history === 'unknown' && f.earlierCount === 0 ? {} : null),
  }),
];
