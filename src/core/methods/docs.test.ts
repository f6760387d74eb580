import fs from 'node:fs';
import { describe, expect, it } from 'vitest';
import { METHODS } from './registry';

describe('the pages for agronomists', () => {
  const ground = fs.readFileSync('docs/methods/ground.md', 'utf8');
  it('name each method of the ground, and none that is not there', () => {
    const ids = METHODS.map((m) => m.id).filter((id) => id.startsWith('ground.'));
    expect(ids.filter((id) => !ground.includes(`\`${id}\``))).toEqual([]);
    expect([...ground.matchAll(/`(ground\.[a-z_0-9]+)`/g)].map((m) => m[1]).filter((id) => !ids.includes(id as string))).toEqual([]);
  });
});
