import fs from 'node:fs';
import { describe, expect, it } from 'vitest';
import { METHODS } from './registry';

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
