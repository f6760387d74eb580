import { z } from 'zod';
import type { PageAsked } from '@/data/summaries';

const FIELDS_A_PAGE = 50;
const listParams = z.object({
  page: z.coerce.number().int().min(1).max(1_000_000).catch(1),
  q: z.string().trim().max(80).catch(''),
});
/** What an address of a list may say; what it says wrongly is page 1 of all fields. */
export type ListParams = Record<string, string | string[] | undefined>;

export function pageOf(params: ListParams): PageAsked {
  const { page, q } = listParams.parse(params);
  return { offset: (page - 1) * FIELDS_A_PAGE, limit: FIELDS_A_PAGE, search: q };
}
