import { within } from '../quantity/range';
import { compostTests } from '../book/organicTables';
import { lazily } from '../book/table';

/**
 * Tests of a compost that a number answers (chapter 2, 9.4); the bean test and its herbicides have
 * rules of their own.
 */
export const COMPOST_TESTS = [
  'c_to_n',
  'nh4_n_mg_kg_dm',
  'no3_to_nh4_ratio',
  'ec_ds_m_1_5',
  'ph',
  'self_heat_rise_c',
  'o2_uptake_mmol_kg_h',
  'co2_mg_g_om_d',
  'cress_germination_pct',
  'pile_temp_excess_c',
  'glass_plastic_pct_dm',
] as const;
export type CompostTest = (typeof COMPOST_TESTS)[number];
export type TestReading = 'good' | 'between' | 'beyond' | 'unknown';
export interface Maturity {
  verdict: 'mature' | 'immature' | 'doubtful';
  /** A heap without air: not to be used, whatever the rest says. */
  sour: boolean;
  tests: {
    key: CompostTest;
    name: string;
    unit: string;
    value: number | null;
    reading: TestReading;
    good: string;
    stop: string | null;
  }[];
}
const STABLE: readonly CompostTest[] = [
  'self_heat_rise_c',
  'o2_uptake_mmol_kg_h',
  'co2_mg_g_om_d',
  'cress_germination_pct',
];
const numberIn = (text: string | null, word: 'over' | 'under'): number | null => {
  const m = new RegExp(`${word} (\\d+(?:\\.\\d+)?)`).exec(text ?? '');
  return m ? Number(m[1]) : null;
};
/**
 * Limits as the table words them, read once. The limit of nitrate to ammonium stands in words
 * beside its stop.
 */
const limits = lazily(() =>
  COMPOST_TESTS.map((key) => {
    const row = compostTests().get(key);
    const [from, to] = [Number(row?.goodFrom), row?.goodTo ?? Infinity];
    const [above, below] = [
      numberIn(row?.stopRule ?? null, 'over'),
      numberIn(row?.stopRule ?? row?.meaning ?? null, 'under'),
    ];
    return {
      key,
      name: row?.name ?? key,
      unit: row?.unit ?? '',
      from,
      to,
      above,
      below,
      good: Number.isFinite(to) ? `${from} to ${to}` : `${from} or more`,
      stop: row?.stopRule ?? (below === null ? null : `under ${below}`),
    };
  }),
);

/**
 * Whether a compost is ready (chapter 2, 9.4). Mature only where C:N, ammonium (or nitrate to
 * ammonium) and one of self-heating, respiration and
 * cress all read good; immature where any lies beyond its stop; otherwise doubtful. A test that
 * nobody made is unknown, not good.
 *
 * @param i.tests results by key, in the unit of the table; null: not tested
 * @throws Refusal for a negative or unreadable result
 * @example compostMaturity({ tests: { c_to_n: 14, nh4_n_mg_kg_dm: 120, cress_germination_pct: 96
 * } }).verdict // 'mature'
 */
export function compostMaturity(i: {
  tests: Partial<Record<CompostTest, number | null>>;
  smell?: string | null;
}): Maturity {
  const tests = limits().map(
    ({ key, name, unit, from, to, above, below, good, stop }): Maturity['tests'][number] => {
      const given = i.tests[key] ?? null;
      const value =
        given === null
          ? null
          : within(key, given, {
              label: name,
              unit: '',
              min: key === 'self_heat_rise_c' || key === 'pile_temp_excess_c' ? -20 : 0,
              max: 100_000,
            });
      const reading: TestReading =
        value === null
          ? 'unknown'
          : (above !== null && value > above) || (below !== null && value < below)
            ? 'beyond'
            : (from === 0 || value >= from) && value <= to
              ? 'good'
              : 'between';
      return { key, name, unit, value, reading, good, stop };
    },
  );
  const good = (key: CompostTest) => tests.some((t) => t.key === key && t.reading === 'good');
  const ready =
    good('c_to_n') && (good('nh4_n_mg_kg_dm') || good('no3_to_nh4_ratio')) && STABLE.some(good);
  return {
    verdict: tests.some((t) => t.reading === 'beyond') ? 'immature' : ready ? 'mature' : 'doubtful',
    sour: i.smell === 'sour',
    tests,
  };
}
