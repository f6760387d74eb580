import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { compostTests } from '../book/organicTables';
import { COMPOST_TESTS, compostMaturity } from './maturity';

const ready = { c_to_n: 14, nh4_n_mg_kg_dm: 120, cress_germination_pct: 96 };
const readingOf = (key: (typeof COMPOST_TESTS)[number], value: number) =>
  compostMaturity({ tests: { [key]: value } }).tests.find((t) => t.key === key)?.reading;

describe('whether a compost is ready', () => {
  it('C:N, ammonium and one sign of rest make it mature', () => {
    expect(compostMaturity({ tests: ready }).verdict).toBe('mature');
    expect(
      compostMaturity({ tests: { ...ready, nh4_n_mg_kg_dm: null, no3_to_nh4_ratio: 1.4 } }).verdict,
    ).toBe('mature');
    expect(
      compostMaturity({ tests: { ...ready, cress_germination_pct: null, self_heat_rise_c: 6 } })
        .verdict,
    ).toBe('mature');
  });
  it.each(['c_to_n', 'nh4_n_mg_kg_dm', 'cress_germination_pct'])(
    'without %s it is doubtful: not tested is not good',
    (key) => expect(compostMaturity({ tests: { ...ready, [key]: null } }).verdict).toBe('doubtful'),
  );
  it('nothing tested is doubtful', () =>
    expect(compostMaturity({ tests: {} }).verdict).toBe('doubtful'));
  it.each([
    ['c_to_n', 31],
    ['nh4_n_mg_kg_dm', 1001],
    ['no3_to_nh4_ratio', 0.14],
    ['ec_ds_m_1_5', 4.1],
    ['ph', 9.1],
    ['ph', 4.9],
    ['self_heat_rise_c', 31],
    ['o2_uptake_mmol_kg_h', 26],
    ['co2_mg_g_om_d', 8.1],
    ['cress_germination_pct', 69],
    ['pile_temp_excess_c', 21],
    ['glass_plastic_pct_dm', 0.6],
  ] as const)('%s of %d is beyond its stop', (key, value) => {
    expect(readingOf(key, value)).toBe('beyond');
    expect(compostMaturity({ tests: { ...ready, [key]: value } }).verdict).toBe('immature');
  });
  it.each([
    ['c_to_n', 30],
    ['nh4_n_mg_kg_dm', 1000],
    ['no3_to_nh4_ratio', 0.15],
    ['ec_ds_m_1_5', 4],
    ['ph', 9],
    ['ph', 5],
    ['self_heat_rise_c', 30],
    ['cress_germination_pct', 70],
    ['c_to_n', 8],
  ] as const)('%s of %d stands between', (key, value) =>
    expect(readingOf(key, value)).toBe('between'),
  );
  it.each([
    ['self_heat_rise_c', -2],
    ['pile_temp_excess_c', -1],
    ['no3_to_nh4_ratio', 40],
    ['cress_germination_pct', 120],
    ['ph', 6.5],
    ['ph', 8],
  ] as const)('%s of %d is good', (key, value) => expect(readingOf(key, value)).toBe('good'));
  it('a sour heap is sour whatever its figures', () =>
    expect(compostMaturity({ tests: ready, smell: 'sour' })).toMatchObject({
      sour: true,
      verdict: 'mature',
    }));
  it('a result below 0 is refused by its name', () =>
    expect(() => compostMaturity({ tests: { c_to_n: -3 } })).toThrow(Refusal));
  it('every test of the table that a number answers is among them', () => {
    const words = ['bean_bioassay', 'smell', 'pfrp_days_over_55c'];
    expect([...compostTests().keys()].filter((k) => !words.includes(k)).toSorted()).toEqual(
      [...COMPOST_TESTS].toSorted(),
    );
  });
});
