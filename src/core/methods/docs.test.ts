import fs from 'node:fs';
import { describe, expect, it } from 'vitest';
import { MODULES, referencePage } from './reference';
import { METHODS, namesTable } from './registry';
import { workedExamples } from './workedExample';

describe('the pages for agronomists', () => {
  it.each(['ground', 'budget', 'organics'])(
    '%s: each method is there, and none that is not',
    (part) => {
      const page = fs.readFileSync(`docs/methods/${part}.md`, 'utf8');
      const ids = METHODS.map((m) => m.id).filter((id) => id.startsWith(`${part}.`));
      expect(ids.filter((id) => !page.includes(`\`${id}\``))).toEqual([]);
      expect(
        [...page.matchAll(/`([a-z]+\.[a-z_0-9]+)`/g)]
          .map((m) => m[1] as string)
          .filter((id) => id.startsWith(`${part}.`) && !ids.includes(id)),
      ).toEqual([]);
    },
  );
});

it('has the chapters’ names of all fields beside ours', () => {
  const lines = fs.readFileSync('docs/methods/names.csv', 'utf8').trimEnd().split('\n');
  expect(lines).toEqual([
    'method,direction,old,new',
    ...namesTable().map((r) => [r.method, r.direction, r.old, r.new].join(',')),
  ]);
});

it.each(MODULES)('has the reference page of %s, made from its entries', async (module) => {
  const page = fs.readFileSync(`docs/methods/reference/${module}.md`, 'utf8');
  expect(page).toBe(referencePage(module, await workedExamples()));
});
