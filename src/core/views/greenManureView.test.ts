import { PRINTED } from '../book/book';
import { describe, expect, it } from 'vitest';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import type { GreenManurePlan } from '../document/previousDocument';
import { greenManureView } from './greenManureView';

const plan = terraceShortWorked();
const gm = (
  species: [string, number, GreenManurePlan['species'][number]['stage']][],
  part: Partial<GreenManurePlan> = {},
): GreenManurePlan => ({
  kind: 'green_manure',
  weighed: null,
  dmTHa: 5,
  species: species.map(([speciesKey, share, stage]) => ({ speciesKey, share, stage, nPct: null })),
  removedFracTops: 0,
  placement: 'ploughed_in',
  killDate: null,
  killTiming: null,
  weeksTo80pctUptake: null,
  ...part,
});

describe('how a green manure reads', () => {
  it('rye and vetch: waiting a stage costs N', () => {
    const v = greenManureView(
      PRINTED,
      plan,
      gm([
        ['cereal_rye', 0.6, 'early_flower'],
        ['hairy_vetch', 0.4, 'early_flower'],
      ]),
    );
    expect(v.nextStageCn).toBeGreaterThan(v.cnRatio);
    expect(v.nextStageKgHa).toBeLessThan(v.nowKgHa);
  });
  it('ripe rye takes N first, and is told when it turns', () => {
    const v = greenManureView(PRINTED, plan, gm([['cereal_rye', 1, 'full_flower']]));
    expect(v.greatestTieUpKgHa).toBeGreaterThan(0);
    expect(v.atWeek).not.toBeNull();
    expect(v.nowKgHa).toBeLessThan(
      greenManureView(PRINTED, plan, gm([['hairy_vetch', 1, 'full_flower']])).nowKgHa,
    );
  });
  it('with seed there is no later stage; a single species reads alike both ways', () => {
    const v = greenManureView(PRINTED, plan, gm([['cereal_rye', 1, 'seed_fill']]));
    expect(v.nextStageKgHa).toBeNull();
    expect(v.schoolsDiffer).toBe(false);
    expect(v.perSpeciesKgHa).toBeCloseTo(v.nowKgHa, 9);
  });
});
