import { PRINTED } from '../book/book';
import fs from 'node:fs';
import { describe, expect, it } from 'vitest';
import { ALL_RULES, rulesPage } from './allRules';
import { DEMO_FARMS } from '../../demo/scenario';
import { figuresOf } from '../views/figures';

describe('the rules of all modules', () => {
  it('are unique as module and id, and each says what to do', () => {
    const ids = ALL_RULES.map((r) => `${r.module} ${r.id}`);
    expect(ids.filter((id, i) => ids.indexOf(id) !== i)).toEqual([]);
    expect(ALL_RULES.filter((r) => !r.when || !r.message || !r.action).map((r) => r.id)).toEqual(
      [],
    );
  });
  it('are listed on a page that is up to date', () =>
    expect(rulesPage(), 'run: npm run --silent furrow -- rules > docs/rules.md').toBe(
      fs.readFileSync('docs/rules.md', 'utf8'),
    ));
  it('the demo farms provoke stops and cautions of every part of the plan', () => {
    const fired = DEMO_FARMS.flatMap((f) =>
      f.fields.flatMap((x) => x.seasons.flatMap((s) => figuresOf(PRINTED, s).a.warnings)),
    );
    for (const part of ['ground', 'budget', 'organics', 'nitrogen'])
      expect(
        fired.some((w) => w.module === part && w.level !== 'info'),
        part,
      ).toBe(true);
    // Whatever speaks on a plan stands in the list.
    const known = new Set(ALL_RULES.map((r) => `${r.module} ${r.id}`));
    expect(
      [...new Set(fired.map((w) => `${w.module} ${w.id}`))].filter((id) => !known.has(id)),
    ).toEqual([]);
  });
});
