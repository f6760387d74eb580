import { PRINTED } from '../../src/core/book/book';
import { DEMO_FARMS } from '../../src/demo/scenario';
import { farmTotals, sumRows } from '../../src/core/farm/farmTotals';
import { farmFieldRow } from '../../src/core/farm/wholeFarm';
import { type Plan } from '../../src/core/document/document';
import { at, clock, ms } from './clock';

/**
 * A farm of five hundred fields, as the worker reckons it: the demo's fields over and over, each
 * with a goal of its own.
 */
export function wholeFarm(): void {
  const demo = DEMO_FARMS.flatMap((f) => f.fields.map((x) => x.seasons[0] as Plan));
  const fields = Array.from({ length: 500 }, (_, i) => {
    const plan = demo[i % demo.length] as Plan;
    return {
      fieldId: `f${i}`,
      plan: {
        ...plan,
        season: {
          ...plan.season,
          yieldGoalTHa:
            plan.season.yieldGoalTHa === null
              ? null
              : plan.season.yieldGoalTHa * (0.8 + (i % 20) / 50),
        },
      },
    };
  });
  const each: number[] = [];
  const start = performance.now();
  const rows = fields.map((f) => {
    const t = performance.now();
    const row = farmFieldRow(PRINTED, f);
    each.push(performance.now() - t);
    return row;
  });
  const reckoned = performance.now() - start;
  const sums = clock(20, () => farmTotals(sumRows(rows), [], fields[0]?.plan.farm as Plan['farm']));
  console.log(
    `whole farm of ${rows.length} fields, in the worker                      ${(reckoned / 1000).toFixed(2)} s in all, longest field ${ms(Math.max(...each))}; its sums on the page ${ms(at(sums, 0.95))}`,
  );
}
