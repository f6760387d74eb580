import { describe, expect, it } from 'vitest';
import { budgetRules } from '../budget/rules';
import { readingRules, sampleRules } from '../ground/rules';
import { passRules } from '../nitrogen/rules';
import { applicationRules, historyRules } from '../organics/rules';
import { leafReadingRules, leafSampleRules } from '../tissue/rules';
import { judge, type Rule } from './rule';

const all = [...sampleRules, ...readingRules, ...budgetRules, ...applicationRules, ...historyRules, ...passRules, ...leafSampleRules, ...leafReadingRules] as Rule<never>[];

describe('rules', () => {
  it('are unique as module and id, and each says what to do', () => {
    const ids = all.map((r) => `${r.module} ${r.id}`);
    expect(ids.filter((id, i) => ids.indexOf(id) !== i)).toEqual([]);
    expect(all.filter((r) => !r.when || !r.message || !r.action).map((r) => r.id)).toEqual([]);
  });
  it('fill their figures in and put stops first', () => {
    const rules: Rule<number>[] = [{ module: 'm', id: '1', level: 'info', when: 'always', message: '{x} kg, {y}', action: 'go', test: (x) => ({ x, y: 'so' }) }, { module: 'm', id: '2', level: 'stop', when: 'large', message: 'too much', action: 'less', test: (x) => (x > 5 ? {} : null) }];
    expect(judge(rules, 12.34).map((w) => [w.id, w.message])).toEqual([['2', 'too much'], ['1', '12 kg, so']]);
    expect(judge(rules, 3.21)[0]?.message).toBe('3.2 kg, so');
  });
});
