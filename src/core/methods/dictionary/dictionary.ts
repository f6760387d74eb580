import { budget } from './budget';
import { common } from './common';
import { diagnosis } from './diagnosis';
import { ground } from './ground';
import { nitrogen } from './nitrogen';
import { organics } from './organics';
import { season } from './season';
import { tissue } from './tissue';
import { units } from './units';

/** Every quantity of the open edge by its one name. */
export const DICTIONARY = {
  ...common,
  ...units,
  ...budget,
  ...ground,
  ...nitrogen,
  ...organics,
  ...season,
  ...tissue,
  ...diagnosis,
} as const;
