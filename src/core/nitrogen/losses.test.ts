import { describe, expect, it } from 'vitest';
import examples from '../methods/examples/04-nitrogen-plan.json';
import { PRINTED } from '../book/book';
import { toCamel } from '../quantity/names';
import { Refusal } from '../quantity/refusal';
import { redress, sidedressNitrateTest, sufficiencyIndex } from './inSeason';
import {
  alternativesOf,
  ammoniaLoss,
  denitrificationLoss,
  eventLoss,
  leachingLoss,
  nitrifiedShare,
  type AmmoniaInput,
  type EventInput,
} from './losses';

interface Case {
  id: string;
  method: string;
  input: Record<string, unknown>;
  expected: Record<string, unknown>;
}
const camel = (o: Record<string, unknown>) =>
  Object.fromEntries(Object.entries(o).map(([k, v]) => [toCamel(k), v]));
const cases = (method: string) =>
  (examples as unknown as Case[])
    .filter((e) => e.method === method)
    .map((e) => [e.id, camel(e.input), e.expected] as const);
function answers(found: unknown, expected: Record<string, unknown>): void {
  for (const [key, value] of Object.entries(expected)) {
    const ours = (found as Record<string, unknown>)[toCamel(key)];
    if (typeof value === 'number') expect(ours, key).toBeCloseTo(value, 6);
    else expect(ours, key).toBe(value);
  }
}
const replays = (method: string, run: (input: never) => unknown) =>
  it.each(cases(method))(`${method} %s`, (_, input, expected) => {
    if ('refuse' in expected) expect(() => run(input as never)).toThrow(Refusal);
    else answers(run(input as never), expected);
  });

describe('what a pass may lose: the chapter’s examples', () => {
  replays('nitrogen.ammonia_loss', (i: AmmoniaInput) => ammoniaLoss(PRINTED, i));
  replays('nitrogen.denit_loss', denitrificationLoss);
  replays('nitrogen.nitrified', (i: never) => ({ nitrifiedFrac: nitrifiedShare(i) }));
  replays('nitrogen.leach_loss', leachingLoss);
  replays('nitrogen.event_loss', (i: EventInput) => eventLoss(PRINTED, i));
  it.each(cases('nitrogen.rank_alternatives'))(
    'nitrogen.rank_alternatives %s',
    (_, input, expected) => {
      const list = alternativesOf(PRINTED, input as never);
      const told = (a: (typeof list)[number] | undefined) =>
        a && [a.productId, a.placementId, a.lostKgHa, a.costPerKgLeft];
      const same = (found: unknown, wanted: unknown) =>
        (wanted as unknown[]).forEach((w, k) => {
          const f = (found as unknown[])[k];
          if (typeof w === 'number') expect(f).toBeCloseTo(w, 6);
          else expect(f).toBe(w);
        });
      same(told(list[0]), expected.least_loss);
      same(told(list.at(-1)), expected.most_loss);
      same(
        told(list.toSorted((a, b) => a.costPerKgLeft - b.costPerKgLeft)[0]),
        expected.cheapest_per_kg_left,
      );
    },
  );
  it('the range never leaves what is there: no more than all nitrate, no less than the middle', () => {
    const all = denitrificationLoss({ nitrateKgHa: 50, saturatedDays: 100, tSoilC: 30, omPct: 8 });
    expect(all.highKgHa).toBe(50);
    expect(
      leachingLoss({
        nitrateKgHa: 80,
        drainageMm: 600,
        fieldCapacityVolPct: 10,
        rootDepthCm: 40,
      }).highKgHa,
    ).toBeLessThanOrEqual(80);
    expect(nitrifiedShare({ tSoilC: -2, days: 60 })).toBe(0);
    expect(
      leachingLoss({ nitrateKgHa: 80, drainageMm: 0, fieldCapacityVolPct: 30, rootDepthCm: 60 }),
    ).toMatchObject({ lossKgHa: 0 });
  });
});

describe('decided while the crop stands: the chapter’s examples', () => {
  replays('nitrogen.sidedress_nitrate_test', sidedressNitrateTest);
  replays('nitrogen.sufficiency', sufficiencyIndex);
  replays('nitrogen.redress', redress);
  it('a strip that is not the best area, and a field that lacks something else, are told', () => {
    const read = (fieldReading: number) =>
      sufficiencyIndex({ fieldReading, referenceReading: 0.7, nOptKgHa: 180, nAppliedKgHa: 60 });
    expect(read(0.75)).toMatchObject({ nKgHa: 0, flag: 'strip_not_best' });
    expect(read(0.45)).toMatchObject({ flag: 'other_cause' });
    expect(read(0.68)).toMatchObject({ nKgHa: 0, flag: 'ok' });
  });
  it('no second dressing where the ground still feeds the crop', () =>
    expect(
      redress({
        uTotalKgHa: 220,
        uptakeSoFarKgHa: 120,
        rootZoneMineralNKgHa: 110,
        expectedMineralisationKgHa: 40,
        yieldTHa: 11,
        grainPricePerT: 180,
        nPricePerKg: 1,
        passCostHa: 14,
      }),
    ).toMatchObject({ doseKgHa: 0, marginHa: 0 }));
});
