// npm run bench: how fast a whole plan is assessed, against the same budget arithmetic rebuilt in a
// spreadsheet engine; lists of many fields; from a key to the last figure painted; what each
// route ships; the command line. Ratios within one run; nothing is
// gated on them. A name after it runs that part alone: npm run bench -- lists
import { blend } from './bench/blend';
import { cautions } from './bench/cautions';
import { commandLine } from './bench/commandLine';
import { wholeFarm } from './bench/farm';
import { ground } from './bench/ground';
import { leaves } from './bench/leaves';
import { lists } from './bench/lists';
import { season } from './bench/season';
import { sizes } from './bench/routes';
import { typing } from './bench/typing';
import { speed } from './bench/workbook';

const PARTS: Record<string, () => void | Promise<void>> = {
  assess: speed,
  blend,
  cautions,
  farm: wholeFarm,
  ground,
  leaves,
  lists,
  season,
  typing,
  routes: sizes,
  command: commandLine,
};
const asked = process.argv.slice(2);
const unknown = asked.find((p) => !(p in PARTS));
if (unknown)
  throw new Error(`There is no part ${unknown}. Parts: ${Object.keys(PARTS).join(', ')}.`);
for (const [name, part] of Object.entries(PARTS))
  if (asked.length === 0 || asked.includes(name)) await part();
