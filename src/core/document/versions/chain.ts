import { refuse } from '../../quantity/refusal';
import type { Raw, Step } from './step';
import { STEPS } from './steps';

/**
 * Takes a valid document of an older version up to `version`, step by step.
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
