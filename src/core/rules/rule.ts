import type { Fill, Words } from '../why/said';
/**
 * `stop` wants to be put right before anybody agrees, and is named beside the agreement; `caution`
 * wants a look; `info` is quiet.
 */
export type Level = 'stop' | 'caution' | 'info';

/**
 * A judgement rule: a named condition with a message that says what is wrong, and what to do next.
 * Unique as module and id.
 */
export interface Rule<Facts> {
  module: string;
  id: string;
  level: Level;
  /** The condition in words, for the list of rules. */
  when: string;
  message: string;
  action: string;
  /** What breaks it may not go out: its kilograms do not count in the plan. */
  takesOut?: boolean;
  /** Returns the figures for the message when the rule fires, else null. */
  test: (facts: Facts) => Fill | null;
}

export interface Warning {
  module: string;
  id: string;
  level: Level;
  message: Words;
  action: Words;
  /** What it is about, when several things of a kind can fire the same rule. */
  about?: string;
  /** The pass or dressing that may not go out. */
  takesOut?: boolean;
  /** Day of the pass or dressing: after it nothing can be done. */
  on?: string;
}

const filled = (text: string, fill: Fill): Words => (text.includes('{') ? { text, fill } : text);

const ORDER: Record<Level, number> = { stop: 0, caution: 1, info: 2 };
export const byLevel = (a: { level: Level }, b: { level: Level }): number =>
  ORDER[a.level] - ORDER[b.level];

/**
 * Tests all rules on the facts; stops come first, then cautions, then infos. `about` names the
 * thing in question.
 */
export function judge<Facts>(
  rules: readonly Rule<Facts>[],
  facts: Facts,
  about?: string,
): Warning[] {
  const fired: Warning[] = [];
  for (const rule of rules) {
    const fill = rule.test(facts);
    if (fill)
      fired.push({
        module: rule.module,
        id: rule.id,
        level: rule.level,
        message: filled(rule.message, fill),
        action: filled(rule.action, fill),
        ...(about ? { about } : {}),
        ...(rule.takesOut ? { takesOut: true } : {}),
      });
  }
  return fired.sort(byLevel);
}
