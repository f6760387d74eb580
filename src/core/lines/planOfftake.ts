import type { Book } from '../book/book';
import { offtake, type Offtake, type OfftakeInput } from '../budget/offtake';
import type { Crop } from '../book/crops';
import type { Plan } from '../document/document';

/** What leaves beside the product: straw, or prunings where the crop has no straw. */
export function carriedOff(
  plan: Plan,
  crop: Crop,
): Pick<OfftakeInput, 'strawRemovedFrac' | 'rainOver25mm' | 'pruningsTDmHa'> {
  const { strawRemovedFrac, stand } = plan.season;
  return crop.residueDmTPerT === null
    ? { pruningsTDmHa: stand.pruningsTDmHa }
    : { strawRemovedFrac, rainOver25mm: stand.strawWashed };
}
/** N, P, K and S that the season of the plan takes off the field, kg/ha (chapter 1, U5). */
export const planOfftake = (book: Book, plan: Plan, crop: Crop): Offtake =>
  offtake(book, {
    cropKey: crop.key,
    yieldTHa: plan.season.yieldGoalTHa ?? 0,
    ...carriedOff(plan, crop),
  });
