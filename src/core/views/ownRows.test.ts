import { describe, expect, it } from 'vitest';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import { bookOf, PRINTED, type LibraryChange, type LibraryTable } from '../book/book';
import { crops } from '../book/crops';
import { fertilisers } from '../book/fertilisers';
import { limeMaterials } from '../book/limes';
import { materials } from '../book/organicMaterials';
import type { Plan } from '../document/document';
import { blankLime } from '../lines/lime';
import { figuresOf } from './figures';
import { proposeSplit } from './splitProposal';

const OWN = 'own_row_of_the_farm';
const change = (table: LibraryTable, like: string, key = OWN): LibraryChange => ({
  table,
  key,
  like,
  values: {},
  by: 'Odo Merrick',
  on: '2027-02-01',
  why: 'as the book has it',
});

/** All that a plan shows, without the words that tell whose a row is. */
function shown(plan: Plan, like: string): unknown {
  const text = JSON.stringify(figuresOf(bookOf(plan.farm.library), plan, true), (key, value) =>
    key === 'source' || key === 'confidence' || key === 'bookKey' ? undefined : (value as unknown),
  );
  return JSON.parse(
    text.replaceAll(OWN, like).replaceAll(/source:[^"]*?confidence (low|medium|high)/g, 'source'),
  );
}

const worked = terraceShortWorked();
const withCrop = (cropKey: string, library: LibraryChange[] = []): Plan => {
  const crop = crops(PRINTED).find((c) => c.key === cropKey) ?? crops(bookOf(library)).at(-1);
  return {
    ...worked,
    farm: { ...worked.farm, library },
    season: {
      ...worked.season,
      cropKey,
      use: null,
      yieldGoalTHa: crop?.yieldTypicalTHa ?? 1,
      yieldHistoryTHa: [],
    },
    lime: blankLime(worked),
  };
};
const withMaterial = (materialKey: string, library: LibraryChange[] = []): Plan => ({
  ...worked,
  farm: { ...worked.farm, library },
  organics: worked.organics.slice(0, 1).map((o) => ({ ...o, materialKey, lab: null })),
});
const withFertiliser = (productId: string, library: LibraryChange[] = []): Plan => ({
  ...worked,
  farm: { ...worked.farm, library },
  passes: worked.passes.slice(0, 2).map((p) => ({ ...p, productId })),
});
const withLime = (materialKey: string, library: LibraryChange[] = []): Plan => {
  const lime = blankLime(worked);
  return {
    ...worked,
    farm: { ...worked.farm, library },
    lime: {
      ...lime,
      candidates: lime.candidates.slice(0, 1).map((c) => ({ ...c, materialKey })),
      chosenId: lime.candidates[0]?.id ?? null,
    },
  };
};

describe('a row of the farm’s own, like another and nothing changed', () => {
  it.each(crops(PRINTED).map((c) => c.key))('crop %s: every figure and warning is equal', (key) =>
    expect(shown(withCrop(OWN, [change('crops', key)]), key)).toEqual(shown(withCrop(key), key)),
  );
  it.each(materials(PRINTED).map((m) => m.key))('material %s', (key) =>
    expect(shown(withMaterial(OWN, [change('materials', key)]), key)).toEqual(
      shown(withMaterial(key), key),
    ),
  );
  it.each(fertilisers(PRINTED).map((f) => f.productId))('fertiliser %s', (key) =>
    expect(shown(withFertiliser(OWN, [change('fertilisers', key)]), key)).toEqual(
      shown(withFertiliser(key), key),
    ),
  );
  it.each(limeMaterials(PRINTED).map((l) => l.key))('lime %s', (key) =>
    expect(shown(withLime(OWN, [change('limes', key)]), key)).toEqual(shown(withLime(key), key)),
  );
});

describe('two farms assessed in turn in one process', () => {
  const ours: LibraryChange = {
    ...change('crops', 'sugar_beet', 'sugar_beet'),
    values: { uptakeNKgT: 8, nReqKgT: 3 },
  };
  const theirs = withCrop('sugar_beet');
  const mine = withCrop('sugar_beet', [ours]);
  const demand = (plan: Plan) => figuresOf(bookOf(plan.farm.library), plan).section?.demand;
  it('each get what they get alone, whoever comes first', () => {
    const alone = [demand(theirs), figuresOf(PRINTED, theirs).a.sums.n.requirement];
    const own = [demand(mine), figuresOf(bookOf([ours]), mine).a.sums.n.requirement];
    expect(own).not.toEqual(alone);
    for (const [plan, expected] of [
      [mine, own],
      [theirs, alone],
      [mine, own],
      [theirs, alone],
    ] as const)
      expect([
        demand(plan),
        figuresOf(bookOf(plan.farm.library), plan).a.sums.n.requirement,
      ]).toEqual(expected);
  });
  it('a split with an own fertiliser of 20 % N leaves nothing missing', () => {
    const weak: LibraryChange = {
      ...change('fertilisers', 'can_27', 'can_27'),
      values: { nTotalPct: 20, nNitratePct: 10, nAmmoniumPct: 10 },
    };
    const plan = { ...withCrop('sugar_beet', [weak]), passes: [], organics: [] };
    const book = bookOf([weak]);
    const split = proposeSplit(book, plan, 'can_27', (i) => `pass-${i}`);
    const after = figuresOf(book, { ...plan, passes: split.passes }).a.sums.n.stillToApply;
    expect(Math.abs(after - split.unplacedKgHa)).toBeLessThan(2);
  });
});
