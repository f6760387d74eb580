import { PRINTED } from '../book/book';
import { describe, expect, it } from 'vitest';
import { leafStandards } from '../book/leafStandards';
import { demoLeaves } from '../../demo/quernOrchard';
import { crosswalkOf } from '../book/crops';
import { standardsFor } from '../tissue/standard';
import { assessLeaf } from './leaf';
import { UNSAID_OF_LEAF, type LeafSample } from '../facts/leafSample';

const context = {
  cropKey: 'sugar_beet',
  areaHa: 5,
  perennial: false,
  legume: false,
  herbage: false,
};
const sample = (part: Partial<LeafSample> = {}): LeafSample => ({
  id: 'x',
  date: '2026-07-10',
  part: 'blade',
  bbch: 37,
  system: null,
  nOrgans: 40,
  washed: 'no',
  sprayElements: [],
  daysSinceSpray: null,
  role: 'survey',
  ...UNSAID_OF_LEAF,
  values: [
    { nutrient: 'N', reported: '4.6', unit: '%' },
    { nutrient: 'P', reported: '0.33', unit: '%' },
    { nutrient: 'K', reported: '34', unit: 'g/kg' },
  ],
  ...part,
});
const standards = leafStandards(PRINTED);
const read = (s: LeafSample, c = context) => assessLeaf(PRINTED, standards, s, c);
const of = (a: ReturnType<typeof read>, n: string) => a.results.find((r) => r.nutrient === n);

describe('a leaf against its standard', () => {
  it('is classed by crop, part and stage, in its own unit', () => {
    const a = read(sample());
    expect(a.standard?.setId).toBe('beet_leaf');
    expect(of(a, 'K')).toMatchObject({ value: 3.4, coreUnit: '%' });
    expect(of(a, 'N')?.cls).toBe('sufficient');
  });
  it('of a wrong part or stage is refused, with the right choices', () => {
    const part = read(sample({ part: 'ear_leaf' }));
    expect(part.refused?.message).toMatch(/no standard for sugar_beet \/ ear_leaf/);
    expect(part.refused?.choices.map((c) => c.part)).toContain('petiole');
    expect(read(sample({ bbch: 60 })).refused?.message).toMatch(
      /outside every window of sugar_beet \/ blade; nearest is beet_leaf \(35-39\)/,
    );
  });
  it('of herbage is read for the stock as well: much K over little Ca and Mg', () => {
    const [choice] = standardsFor(
      standards.ranges,
      crosswalkOf(PRINTED, 'grass_hay').tissueCrop ?? '',
    );
    const herbage = (ca: string) =>
      read(
        sample({
          part: choice?.part ?? '',
          bbch: choice?.bbchFrom ?? 0,
          values: [
            ['K', '3.2'],
            ['Ca', ca],
            ['Mg', '0.14'],
          ].map(([nutrient, reported]) => ({
            nutrient: nutrient as string,
            reported: reported as string,
            unit: '%',
          })),
        }),
        { ...context, cropKey: 'grass_hay', herbage: true },
      );
    expect(herbage('0.4').warnings.map((w) => `${w.module} ${w.id}`)).toContain('ground R34');
    expect(herbage('0.9').warnings.map((w) => w.id)).not.toContain('R34');
  });
  it('two codes off its window is read with a caution', () =>
    expect(read(sample({ bbch: 41 })).warnings.map((w) => w.id)).toContain('R02'));
  it('does not count an impossible value, and says what it may be', () => {
    const a = read(sample({ values: [{ nutrient: 'N', reported: '46', unit: '%' }] }));
    expect(of(a, 'N')?.refused).toMatch(/N = 46 % is outside 0 to 12 %/);
    const b = read(sample({ values: [{ nutrient: 'N', reported: '10', unit: '%' }] }));
    expect(of(b, 'N')?.blocked).toBe(true);
    expect(b.warnings.map((w) => w.id)).toContain('R10');
    expect(b.order).toEqual([]);
  });
  it('takes "<" as an interval and text as a refusal', () => {
    const a = read(
      sample({
        values: [
          { nutrient: 'B', reported: '<5', unit: 'mg/kg' },
          { nutrient: 'Zn', reported: 'lots', unit: 'mg/kg' },
        ],
      }),
    );
    expect(of(a, 'B')?.cls).toBe('deficient');
    expect(of(a, 'Zn')?.refused).toMatch(/is not a number/);
  });
  it('hides iron behind soil on the leaf and calcium behind tap water', () => {
    const a = read(
      sample({
        washed: 'tap',
        values: [
          { nutrient: 'Fe', reported: '900', unit: 'mg/kg' },
          { nutrient: 'Al', reported: '1500', unit: 'mg/kg' },
          { nutrient: 'Ca', reported: '0.9', unit: '%' },
          { nutrient: 'N', reported: '4', unit: '%' },
        ],
      }),
    );
    expect(a.warnings.map((w) => w.id)).toEqual(expect.arrayContaining(['R05', 'R09']));
    expect(of(a, 'Ca')?.blocked).toBe(true);
    expect(of(a, 'N')?.blocked).toBe(false);
  });
  it('keeps the values of a crop without a standard, and calls none of them short', () => {
    const a = read(sample({ bbch: 12 }), { ...context, cropKey: 'sorghum_grain' });
    expect(a.without).toMatch(/no leaf standard/u);
    expect(a.refused).toBeNull();
    expect(a.results.map((r) => [r.nutrient, r.value !== null, r.cls])).toEqual(
      sample().values.map((v) => [v.nutrient, true, null]),
    );
    expect(a.order).toEqual([]);
  });
  it('asks what no leaf of any crop can hold', () => {
    const a = read(
      sample({
        values: [
          { nutrient: 'N', reported: '28', unit: '%' },
          { nutrient: 'Zn', reported: '28', unit: 'mg/kg' },
        ],
      }),
      { ...context, cropKey: 'sorghum_grain' },
    );
    expect(of(a, 'N')).toMatchObject({
      blocked: true,
      meant: { unit: 'g/kg', reported: '28', impossible: true },
    });
    expect(of(a, 'Zn')).toMatchObject({ blocked: false, meant: null, value: 28 });
  });
  it('outside its window refuses the block, and keeps a pair', () => {
    const outside = { part: 'blade', bbch: 3 };
    expect(read(sample(outside)).refused).not.toBeNull();
    const half = read(sample({ ...outside, role: 'affected' }));
    expect(half.refused).toBeNull();
    expect(half.without).toMatch(/the pair is read by itself/u);
    expect(half.results.every((r) => r.cls === null)).toBe(true);
  });
  it('warns of few organs and a large block', () =>
    expect(
      read(sample({ nOrgans: 5 }), { ...context, areaHa: 20 }).warnings.map((w) => w.id),
    ).toEqual(expect.arrayContaining(['R03', 'R04'])));

  it('tells the story of Pear Wall: calcium shortest, potassium above its range', () => {
    const last = demoLeaves.filter((l) => l.fieldKey === 'pear-wall').at(-1);
    const a = read(last?.sample as LeafSample, {
      cropKey: 'pear',
      areaHa: 1.4,
      perennial: true,
      legume: false,
      herbage: false,
    });
    expect(a.order[0]).toBe('Ca');
    expect(of(a, 'K')?.cls).toBe('high');
  });
});
