// How many cautions stand open: a list that nobody reads to its end warns of nothing. The aim is at
// most three on a good plan (chapter 7, W7.4).
import { openCautions, openStops } from '../../src/core/assessment/triage';
import { assess } from '../../src/core/assessment/assess';
import { PRINTED } from '../../src/core/book/book';
import { DEMO_FARMS } from '../../src/demo/scenario';

export function cautions(): void {
  const all = DEMO_FARMS.flatMap((f) => f.fields.flatMap((x) => x.seasons.slice(0, 1)))
    .filter((p) => p.season.cropKey !== null && p.season.yieldGoalTHa !== null)
    .map((p) => assess(PRINTED, p));
  const open = all.map((a) => openCautions(a.cautions).length).toSorted((a, b) => a - b);
  const stops = all.filter((a) => openStops(a.cautions).length > 0).length;
  const warnings = all.map((a) => a.warnings.filter((w) => w.level === 'caution').length);
  console.log(
    `cautions: ${all.length} demo plans, open ones in the middle ${open[open.length >> 1]}, at most ${open.at(-1)} ` +
      `(three at most are shown), before they were brought together at most ${Math.max(...warnings)}; ${stops} plans with a stop`,
  );
}
