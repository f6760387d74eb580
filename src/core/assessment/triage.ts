import type { CautionAnswer } from '../document/answerDocument';
import type { Plan } from '../document/document';
import type { NutrientKey } from '../lines/line';
import type { Station } from '../lines/problem';
import { daysBetween, type IsoDate } from '../quantity/calendar';
import type { Warning } from '../rules/rule';

// One triage for the messages of all trades (chapter 7, W7): told once by their cause, at the place
// where they are put right, the weightiest first.

export interface Stake {
  nutrient: NutrientKey;
  kgHa: number;
}
export interface Caution {
  /** Cause and what it is about: what an answer holds on to. */
  key: string;
  level: 'stop' | 'caution' | 'note';
  /** Told of the cause: the weightiest rule. */
  warning: Warning;
  /** Rules of the same cause that were looked at as well. */
  also: Warning[];
  /** Passes and dressings that it is about. */
  about: string[];
  station: Station;
  stake: Stake | null;
  /** Money for the field at the farm's prices; null where it is not reckoned. */
  money: number | null;
  /** Last day on which acting helps. */
  by: IsoDate | null;
  state: 'open' | 'accepted' | 'postponed';
  answer: CautionAnswer | null;
  /** Whether somebody may accept it with a reason; law, food and people are only put right. */
  mayAccept: boolean;
  /** Stands open: a stop, or one of the three cautions that weigh most. */
  shown: boolean;
}

/** Rules that speak of one cause, the one that says it best first. */
const CAUSES: Readonly<Record<string, readonly string[]>> = {
  p_surplus: [
    'organics R01',
    'ground R17',
    'organics R02',
    'organics R04',
    'organics R10 P',
    'organics R15',
    'ground R16',
    'budget P-03',
    'budget E-03',
  ],
  k_surplus: ['organics R05', 'organics R10 K', 'ground R35'],
  s_surplus: ['organics R10 S'],
  s_short: ['budget S-01', 'budget S-02'],
  n_surplus: ['organics R16', 'organics N07', 'budget E-02', 'budget E-02b', 'budget N-25'],
  ph: [
    'ground R01',
    'ground R02',
    'ground R46',
    'budget L-02',
    'ground R03',
    'budget L-01',
    'budget C-01',
  ],
  interval: ['organics F01', 'organics O04', 'organics I04', 'organics F04', 'organics F03'],
  nitrate_age: ['budget N-04', 'budget N-03', 'budget N-02'],
  nitrate: ['budget N-01', 'budget N-05', 'budget N-06'],
  k_short: ['budget K-01'],
  p_k_unknown: ['budget P-01', 'organics R03'],
  legume: ['budget N-13', 'budget N-14', 'budget N-15'],
  late_n: [
    'organics N08',
    'nitrogen N19',
    'nitrogen N20',
    'nitrogen N06',
    'nitrogen N07',
    'budget C-02',
    'budget C-02b',
  ],
  leaf_high: ['nitrogen N17', 'nitrogen N18', 'nitrogen N16'],
  earlier_manure: ['organics N04', 'organics N05'],
};
const CAUSE_OF = new Map(
  Object.entries(CAUSES).flatMap(([cause, rules]) =>
    rules.map((rule, rank) => [rule, { cause, rank }] as const),
  ),
);
const said = (w: Warning): string => (typeof w.message === 'string' ? w.message : w.message.text);
const fillOf = (w: Warning) => (typeof w.message === 'string' ? {} : w.message.fill);
/** The rule, with its nutrient where one rule speaks of several. */
function ruleOf(w: Warning): string {
  const id = `${w.module} ${w.id}`;
  const { nutrient, name } = fillOf(w) as Record<string, unknown>;
  const of = [nutrient, name, w.about].find((x) => x === 'P' || x === 'K' || x === 'S');
  return id === 'organics R10' && typeof of === 'string' ? `${id} ${of}` : id;
}
/** Of ground readings, only P speaks of a surplus of P. */
const causeOf = (w: Warning): { cause: string; rank: number } =>
  (w.module === 'ground' && w.id === 'R16' && w.about !== 'P'
    ? undefined
    : CAUSE_OF.get(ruleOf(w))) ?? { cause: `${w.module} ${w.id}`, rank: 0 };

const AT: Readonly<Record<string, Station>> = {
  ground: 'ground',
  budget: 'budget',
  organics: 'budget',
  nitrogen: 'supply',
  tissue: 'season',
};
/** Where what a module warns of is put right. */
const stationOfModule = (module: string): Station => AT[module] ?? 'budget';
const AT_CROP = /^(Y-|N-10$|N-12$|N-1[3-689]b?$|N-18b$|N-23$|N-31$|M-01$|X-01$|F-01$)/;
const AT_SUPPLY = /^(S-0|N-26$|N-30$|P-03$|L-01$|C-01$)/;
/** Where it is put right. */
const placeOf = (w: Warning): Station =>
  w.module === 'budget' && AT_CROP.test(w.id)
    ? 'crop'
    : w.module === 'budget' && AT_SUPPLY.test(w.id)
      ? 'supply'
      : stationOfModule(w.module);

/** Kilograms that a message is about: its first figure in kg/ha, of the nutrient that it names. */
function stakeOf(w: Warning): Stake | null {
  const m = /\{(\w+)\} kg(?: ([NPKS])\b)?/.exec(said(w));
  if (!m) return null;
  const f = fillOf(w)[m[1] as string];
  const value = typeof f === 'object' ? f.value : typeof f === 'number' ? f : Number.NaN;
  if (!Number.isFinite(value)) return null;
  // Copper and boron have kilograms too: where none of the four is named, none is meant.
  const named = m[2] ?? /\b([NPKS])\b/.exec(said(w).replace(/\{\w+\}/g, ''))?.[1];
  if (named === undefined) return null;
  return { nutrient: named.toLowerCase() as NutrientKey, kgHa: Math.abs(value) };
}
/** Less than this at stake is a note (chapter 7, W7.2), kg/ha. */
const SMALL: Record<NutrientKey, number> = { n: 15, p: 5, k: 15, s: 5 };
/**
 * Stops that harm the crop and the purse alone: somebody may accept them. What law, food, water,
 * people and certifiers ask for is not on this list and can only be put right.
 */
const MAY_BE_ACCEPTED = new Set([
  'ground R02',
  'ground R46',
  'ground R08',
  'budget N-04',
  'budget N-25b',
  'budget N-30',
  'nitrogen N05',
]);
const SOON_D = 14;
const OPEN_MOST = 3;
const REOPENS_KG = 10;
const REOPENS_FRAC = 0.2;

/** An answer holds until its day, or until what is at stake has moved. */
function holds(answer: CautionAnswer, stake: Stake | null, asOf: IsoDate): boolean {
  if (answer.state === 'postponed') return answer.until !== null && answer.until > asOf;
  if (answer.kgHa === null || stake === null) return true;
  const moved = Math.abs(stake.kgHa - answer.kgHa);
  return moved < REOPENS_KG && moved < REOPENS_FRAC * Math.max(1, answer.kgHa);
}

const LEVELS = { stop: 0, caution: 1, note: 2 } as const;
const levelOf = (w: Warning, stake: Stake | null): Caution['level'] =>
  w.level === 'info' || (w.level === 'caution' && stake && stake.kgHa < SMALL[stake.nutrient])
    ? 'note'
    : w.level === 'stop'
      ? 'stop'
      : 'caution';

/**
 * The warnings of a plan as cautions: one for each cause, with what is at stake, where it is put
 * right and what somebody answered; stops first, then what is due, then money, then kilograms. At
 * most three cautions stand open.
 */
export function triage(plan: Plan, warnings: readonly Warning[]): Caution[] {
  const { farm, field, asOf } = plan;
  const price: Record<NutrientKey, number> = {
    n: farm.nPricePerKg,
    p: farm.pPricePerKg,
    k: farm.kPricePerKg,
    s: farm.sPricePerKg,
  };
  const byCause = new Map<string, { w: Warning; rank: number }[]>();
  for (const w of warnings) {
    const { cause, rank } = causeOf(w);
    const had = byCause.get(cause);
    if (had) had.push({ w, rank });
    else byCause.set(cause, [{ w, rank }]);
  }
  const cautions = [...byCause].map(([cause, group]): Caution => {
    const ordered = group
      .map((g) => ({ ...g, stake: stakeOf(g.w) }))
      .toSorted(
        (a, b) =>
          LEVELS[levelOf(a.w, a.stake)] - LEVELS[levelOf(b.w, b.stake)] ||
          a.rank - b.rank ||
          (b.stake?.kgHa ?? 0) - (a.stake?.kgHa ?? 0),
      );
    const [first] = ordered as [(typeof ordered)[number], ...typeof ordered];
    const { w, stake } = first;
    const days = ordered.flatMap((g) => (g.w.on ? [g.w.on] : [])).toSorted();
    const due = days.find((d) => d >= asOf) ?? days.at(-1) ?? null;
    // Too late only where every dressing and pass that it is about lies behind.
    const late =
      w.level === 'caution' && ordered.every((g) => g.w.on !== undefined && g.w.on < asOf);
    const level = late ? 'note' : levelOf(w, stake);
    // A caution that became a stop is another thing: its old answer does not hold.
    const key = level === 'stop' ? `${cause} (stop)` : cause;
    const answer = plan.answers.findLast((x) => x.caution === key) ?? null;
    const mayAccept =
      level === 'caution' ||
      (level === 'stop' && !w.takesOut && MAY_BE_ACCEPTED.has(`${w.module} ${w.id}`));
    const held =
      answer !== null &&
      mayAccept &&
      (level === 'caution' || answer.state === 'accepted') &&
      holds(answer, stake, asOf);
    return {
      key,
      level,
      warning: w,
      also: ordered.slice(1).map((g) => g.w),
      about: [...new Set(ordered.flatMap((g) => (g.w.about ? [g.w.about] : [])))],
      station: placeOf(w),
      stake,
      money: stake ? stake.kgHa * price[stake.nutrient] * field.areaHa : null,
      by: due,
      state: held ? answer.state : 'open',
      answer: held ? answer : null,
      mayAccept,
      shown: false,
    };
  });
  const soon = (c: Caution): number =>
    c.by !== null && c.by >= asOf && daysBetween(asOf, c.by) <= SOON_D ? 0 : 1;
  const sorted = cautions.toSorted(
    (a, b) =>
      LEVELS[a.level] - LEVELS[b.level] ||
      soon(a) - soon(b) ||
      (b.money ?? 0) - (a.money ?? 0) ||
      (b.stake?.kgHa ?? 0) - (a.stake?.kgHa ?? 0),
  );
  let open = 0;
  return sorted.map((c) => ({
    ...c,
    shown:
      c.state === 'open' && (c.level === 'stop' || (c.level === 'caution' && ++open <= OPEN_MOST)),
  }));
}

/** Cautions that wait for somebody, stops not counted. */
export const openCautions = (cautions: readonly Caution[]): Caution[] =>
  cautions.filter((c) => c.level === 'caution' && c.state === 'open');
/** Stops that stand. */
export const openStops = (cautions: readonly Caution[]): Caution[] =>
  cautions.filter((c) => c.level === 'stop' && c.state === 'open');
