import { bookOf } from '@/core/book/book';
import { assess, type Assessment } from '@/core/assessment/assess';
import type { Plan } from '@/core/document/document';
import type { Db } from '@/data/client';
import { farmsAllowed, type Actor } from './authorise';
import { farmPlans } from './plans';

/** Every field that a person may see, assessed anew from its stored plan, for tests. */
export async function assessedFields(
  db: Db,
  actor: Actor,
): Promise<{ farmId: string; fieldId: string; plan: Plan; assessment: Assessment }[]> {
  const found = [];
  for (const farmId of await farmsAllowed(db, actor, 'read'))
    for (const { fieldId, plan } of (await farmPlans(db, actor, farmId)) ?? [])
      found.push({
        farmId,
        fieldId,
        plan,
        assessment: assess(bookOf(plan.farm.library), plan),
      });
  return found;
}
