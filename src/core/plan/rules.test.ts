import { describe, expect, it } from 'vitest';
import { budgetRules } from '../budget/rules';
import { estimateRules } from '../ground/extractants';
import { limeRules } from '../ground/limeRules';
import { readingRules, sampleRules } from '../ground/rules';
import { herbageRules, layerRules, secondaryRules } from '../ground/secondaryRules';
import { passRules } from '../nitrogen/rules';
import { applicationRules, historyRules } from '../organics/rules';
import { leafReadingRules, leafSampleRules } from '../tissue/rules';
import type { Rule } from '../rules/rule';

const all = [...estimateRules, ...herbageRules, ...layerRules, ...limeRules, ...secondaryRules, ...sampleRules, ...readingRules, ...budgetRules, ...applicationRules, ...historyRules, ...passRules, ...leafSampleRules, ...leafReadingRules] as Rule<never>[];

describe('the rules of all modules', () => {
  it('are unique as module and id, and each says what to do', () => {
    const ids = all.map((r) => `${r.module} ${r.id}`);
    expect(ids.filter((id, i) => ids.indexOf(id) !== i)).toEqual([]);
    expect(all.filter((r) => !r.when || !r.message || !r.action).map((r) => r.id)).toEqual([]);
  });
});
