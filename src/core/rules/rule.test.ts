import { inWords } from '../why/said';
import { describe, expect, it } from 'vitest';
import { judge, type Rule } from './rule';

describe('rules', () => {
  it('fill their figures in and put stops first', () => {
    const rules: Rule<number>[] = [
      {
        module: 'm',
        id: '1',
        level: 'info',
        when: 'always',
        message: '{x} kg, {y}',
        action: 'go',
        test: (x) => ({ x, y: 'so' }),
      },
      {
        module: 'm',
        id: '2',
        level: 'stop',
        when: 'large',
        message: 'too much',
        action: 'less',
        test: (x) => (x > 5 ? {} : null),
      },
    ];
    expect(judge(rules, 12.34).map((w) => [w.id, inWords(w.message)])).toEqual([
      ['2', 'too much'],
      ['1', '12 kg, so'],
    ]);
    expect(inWords(judge(rules, 3.21)[0]?.message ?? '')).toBe('3.2 kg, so');
  });
});
