import { refuse } from '../../quantity/refusal';
import { step0001 } from './0001-0002';
import { step0002 } from './0002-0003';
import { step0003 } from './0003-0004';
import { step0004 } from './0004-0005';
import { step0005 } from './0005-0006';
import type { Raw, Step } from './step';

const STEPS: readonly Step[] = [step0001, step0002, step0003, step0004, step0005];

/**
 * Takes a valid document of an older version up to `version`, step by step.
 *
 */
export function broughtUp(document: Raw, version: number, steps: readonly Step[] = STEPS): Raw {
  let now = document;
  while (now.version !== version) {
    const from = now.version;
    const step =
      steps.find((s) => s.from === from) ??
      refuse('inconsistent', 'version', `There is no version ${String(from)} of this document.`, {
        value: from,
        allowed: `1 to ${version}`,
      });
    now = step.up(now);
  }
  return now;
}
