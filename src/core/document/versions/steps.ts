import { step0001 } from './0001-0002';
import { step0002 } from './0002-0003';
import { step0003 } from './0003-0004';
import { step0004 } from './0004-0005';
import { step0005 } from './0005-0006';
import { step0006 } from './0006-0007';
import { step0007 } from './0007-0008';
import { step0008 } from './0008-0009';
import { step0009 } from './0009-0010';
import { step0010 } from './0010-0011';
import { step0011 } from './0011-0012';
import type { Step } from './step';

/**
 * The steps of the plan document, oldest first. Today's version is the one that the last of them
 * leads to.
 */
export const STEPS: readonly Step[] = [
  step0001,
  step0002,
  step0003,
  step0004,
  step0005,
  step0006,
  step0007,
  step0008,
  step0009,
  step0010,
  step0011,
];
