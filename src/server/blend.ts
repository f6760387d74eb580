import { bookOf } from '@/core/book/book';
import { listed, pricePerT } from '@/core/lines/prices';
import { fertilisers } from '@/core/book/fertilisers';

import { runMethod } from '@/core/methods/method';
import { methodOf } from '@/core/methods/registry';
import { refuse } from '@/core/quantity/refusal';
import type { Db } from '@/data/client';
import { fieldById } from '@/data/farms';
import { loadPlan, seasonsOfField } from '@/data/seasons';
import { authorise, type Actor } from './authorise';
import { today } from './clock';

/**
 * The cheapest blend for a field, out of the farm's own library at the farm's own prices of today;
 * the solver runs here, a page does not wait for it.
 *
 * @throws Refusal `infeasible` that says which limits conflict
 */
export async function solveBlend(
  db: Db,
  actor: Actor,
  fieldId: string,
  raw: unknown,
): Promise<Record<string, unknown>> {
  const field = await fieldById(db, fieldId);
  if (!field) refuse('unknown_id', 'field_id', 'This field does not exist.', { value: fieldId });
  await authorise(db, actor, 'read', field.farmId);
  const [season] = await seasonsOfField(db, field.id);
  const stored = season && (await loadPlan(db, season.id, today()));
  if (!stored) refuse('missing', 'season', `${field.name} has no season yet: begin one first.`);
  const { library, prices } = stored.plan.farm;
  const book = bookOf(library);
  const own = fertilisers(book).flatMap((f) => {
    const price = listed(prices, f.productId, today());
    return price ? [[f.productId, pricePerT(price, f.densityKgL)] as const] : [];
  });
  return runMethod(
    methodOf('nitrogen.blend_lp'),
    { ...(raw as object), own_prices_per_t: Object.fromEntries(own) },
    book,
  );
}
