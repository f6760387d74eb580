import { describe, expect, it } from 'vitest';
import { PRINTED } from '../book/book';
import type { LeafSampleFact } from '../facts/leafSample';
import { beetLeaf } from '../views/leafBeside.testkit';
import { bestQuarter, blocksApart, figuresOf } from './blockFigures';
import { leafBlocks, type FieldWithLeaves } from './leafBlocks';
import { readNorms } from './normFile';

const leaf = (id: string, n: number, more: Partial<LeafSampleFact> = {}): LeafSampleFact =>
  beetLeaf({ N: n, B: 40 }, { id, ...more });
const field = (
  name: string,
  leaves: LeafSampleFact[],
  harvestedTHa: number | null = null,
  cropKey = 'sugar_beet',
): FieldWithLeaves => ({
  id: name,
  name,
  areaHa: 5,
  leaves,
  seasons: [
    { startDate: '2025-10-01', cropKey: 'rye', use: null, harvestedTHa: 6 },
    { startDate: '2026-10-01', cropKey, use: null, harvestedTHa },
  ],
});

describe('leaves of a farm side by side', () => {
  it('one group a crop, part and stage; the best yield first, those without one last', () => {
    const [group, ...rest] = leafBlocks(PRINTED, [
      field('Low', [leaf('a', 4.6)], 58),
      field('Unknown', [leaf('b', 4.4)]),
      field('High', [leaf('c', 4.9)], 71),
    ]);
    expect(rest).toEqual([]);
    expect(group).toMatchObject({ cropKey: 'sugar_beet', part: 'blade' });
    expect(group?.blocks.map((b) => [b.field, b.yieldTHa])).toEqual([
      ['High', 71],
      ['Low', 58],
      ['Unknown', null],
    ]);
    expect(group?.nutrients.map((n) => n.nutrient)).toEqual(['N', 'B']);
    expect(figuresOf(group?.blocks ?? [])[0]).toEqual({ N: 4.9, B: 40 });
  });
  it('what was picked because it looked ill, waits, or lies outside its window is in none', () => {
    expect(
      leafBlocks(PRINTED, [
        field('Ill', [leaf('a', 4, { role: 'affected' })]),
        field('Waits', [leaf('b', 4, { values: [] })]),
        field('Early', [leaf('c', 4, { bbch: 3 })]),
        field('Gone', [leaf('d', 4, { cropKey: 'no_such_crop' })]),
      ]),
    ).toEqual([]);
  });
  it('a leaf of before the crop was sown has no yield of it', () =>
    expect(
      leafBlocks(PRINTED, [field('Before', [leaf('a', 4.6, { date: '2026-06-24' })], 60)])[0]
        ?.blocks[0]?.yieldTHa,
    ).toBeNull());
  it('two crops of one range, and two groups of cultivars, are never mixed', () => {
    const wheat = (id: string, cropKey: string) =>
      leaf(id, 4.5, { cropKey, part: 'whole_shoot', bbch: 31 });
    const groups = leafBlocks(PRINTED, [
      field('A', [wheat('a', 'winter_wheat')], null, 'winter_wheat'),
      field('B', [wheat('b', 'spring_wheat')], null, 'spring_wheat'),
    ]);
    expect(groups.map((g) => g.cropKey).toSorted()).toEqual(['spring_wheat', 'winter_wheat']);
    expect(new Set(groups.map((g) => g.setId)).size).toBe(1);
  });
  it('a crop without ranges is compared too, by ten stages at a time', () => {
    const spinach = (id: string, bbch: number) =>
      leaf(id, 4.1, { cropKey: 'spinach', part: 'youngest_mature_leaf', bbch });
    const groups = leafBlocks(PRINTED, [
      field('A', [spinach('a', 42), spinach('b', 48), spinach('c', 51)], null, 'spinach'),
    ]);
    expect(groups.map((g) => [g.setId, g.bbchFrom, g.bbchTo, g.blocks.length])).toEqual([
      [null, 40, 49, 2],
      [null, 50, 59, 1],
    ]);
    expect(groups[0]?.nutrients[0]).toMatchObject({ low: null, high: null });
  });
  it('the best quarter wants four yields', () => {
    const of = (...yields: (number | null)[]) =>
      leafBlocks(
        PRINTED,
        yields.map((y, k) => field(`F${k}`, [leaf(`l${k}`, 4.5)], y)),
      )[0]?.blocks ?? [];
    expect(bestQuarter(of(60, 70, 80, null))).toEqual([]);
    expect(bestQuarter(of(60, 70, 80, 50))).toEqual(['l2']);
    expect(bestQuarter(of(60, 70, 80, 50, 81, 82, 40, 30, null))).toEqual(['l5', 'l4']);
  });
  it('good blocks differ from the others only where chance does not reach', () => {
    const [k] = blocksApart([{ K: 1.6 }, { K: 1.7 }], [{ K: 1.1 }, { K: 1.2 }]);
    expect(k).toMatchObject({ nutrient: 'K', sure: true });
    expect(k?.pct).toBeCloseTo(43.5, 1);
    expect(blocksApart([{ K: 1.2 }], [{ K: 1.1 }])[0]?.sure).toBe(false);
    expect(blocksApart([{ K: 1.2 }], [{ N: 3 }])).toEqual([]);
  });
});

describe('norms out of a table', () => {
  const place = {
    cropKey: 'maize_grain',
    cropName: 'Maize',
    setId: 'maize_ear_leaf',
    part: 'ear_leaf',
    partLabel: 'Ear leaf',
    bbchFrom: 61,
    bbchTo: 67,
  };
  const read = (...lines: string[]) =>
    readNorms(
      new TextEncoder().encode(
        ['norm_set,ratio,mean,cv,n,part,stage,source,confidence', ...lines].join('\n'),
      ),
      place,
    );
  it('a row a pair, each with what it is for', async () => {
    const { norms, left } = await read(
      'trial,N/P,10.04,14,320,ear leaf,61-67,a journal,medium',
      'trial,N/K,1.49,21,,,,a journal,',
    );
    expect(left).toEqual([]);
    expect(norms[0]).toEqual({
      normSet: 'trial',
      cropKey: 'maize_grain',
      setId: 'maize_ear_leaf',
      part: 'ear_leaf',
      bbchFrom: 61,
      bbchTo: 67,
      ratio: 'N/P',
      normMean: 10.04,
      cvPct: 14,
      nSamples: 320,
      source: 'a journal',
      confidence: 'medium',
    });
    expect(norms[1]).toMatchObject({ nSamples: null, confidence: 'low' });
  });
  it.each([
    ['t,N/P,10,,90,,,a source,low', /variation is missing/u],
    ['t,N/P,10,0,90,,,a source,low', /variation 0/u],
    ['t,N/P,10,120,90,,,a source,low', /variation 120/u],
    ['t,N/P,,14,90,,,a source,low', /mean is missing/u],
    ['t,N/P,10,14,49,,,a source,low', /49 samples are too few/u],
    ['t,N/P,10,14,90,petiole,,a source,low', /another part: petiole/u],
    ['t,N/P,10,14,90,,30-37,a source,low', /another stage: 30-37/u],
    ['t,N/P,10,14,90,,silking,a source,low', /another stage: silking/u],
    ['t,N/N,10,14,90,,,a source,low', /not two nutrients/u],
    ['t,N/Xx,10,14,90,,,a source,low', /not two nutrients/u],
    ['t,N/P,10,14,90,,,,low', /source is missing/u],
  ])('%s stays out, and the rest comes in', async (line, reason) => {
    const { norms, left } = await read('t,N/K,1.5,21,90,,,a source,low', line);
    expect(norms.map((n) => n.ratio)).toEqual(['N/K']);
    expect(left).toHaveLength(1);
    expect(left[0]?.reason).toMatch(reason);
  });
  it('a mean that can be read two ways is not read', async () => {
    const { norms, left } = await readNorms(
      new TextEncoder().encode('set;ratio;mean;cv;source\nt;N/P;1,490;14;a source\n'),
      place,
    );
    expect(norms).toEqual([]);
    expect(left[0]?.reason).toMatch(/1,490 can be read two ways/u);
  });
  it('a pair of % and mg/kg says its units, and is kept in those of the ranges', async () => {
    const of = (units: string, mean: string) =>
      readNorms(
        new TextEncoder().encode(
          `set,ratio,mean,cv,units,source\nt,P/Zn,${mean},20,${units},a source\n`,
        ),
        place,
      );
    expect((await of('', '120')).left[0]?.reason).toMatch(/P\/Zn is of % and of mg\/kg: say/u);
    expect((await of('mmol', '120')).left[0]?.reason).toMatch(/mmol is neither/u);
    for (const units of ['mg/kg / mg/kg', 'ppm:ppm'])
      expect((await of(units, '120')).norms[0]?.normMean).toBeCloseTo(0.012, 10);
    expect((await of('% / mg/kg', '0.012')).norms[0]?.normMean).toBeCloseTo(0.012, 10);
  });
  it('a pair that stands twice, either way round, comes in once', async () => {
    const { norms, left } = await read(
      't,N/P,10,14,90,,,a source,low',
      't,P/N,0.1,14,90,,,a source,low',
    );
    expect([norms.length, left[0]?.reason]).toEqual([1, 'this pair stands twice']);
  });
  it('reads commas of other languages, and refuses a table without a variation', async () => {
    const semicolons = await readNorms(
      new TextEncoder().encode('set;ratio;mean;cv;source\nt;N/P;10,04;14,5;a source\n'),
      place,
    );
    expect(semicolons.norms[0]).toMatchObject({ normMean: 10.04, cvPct: 14.5 });
    await expect(
      readNorms(new TextEncoder().encode('ratio,mean\nN/P,10\n'), place),
    ).rejects.toThrow(/ratio, mean and cv/u);
  });
});
