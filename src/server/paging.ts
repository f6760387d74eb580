import { z } from 'zod';
import { FIELD_SORTS, FIELD_STATES, type FieldsAsked, type PageAsked } from '@/data/summaries';

const LINES_A_PAGE = 50;
const listParams = z.object({
  page: z.coerce.number().int().min(1).max(1_000_000).catch(1),
  q: z.string().trim().max(80).catch(''),
});
const fieldParams = z.object({
  state: z.enum(FIELD_STATES).nullable().catch(null),
  sort: z.enum(FIELD_SORTS).catch('list'),
  farm: z.string().max(60).nullable().catch(null),
});
/** What an address of a list may say; what it says wrongly is page 1 of all. */
export type ListParams = Record<string, string | string[] | undefined>;

export function pageOf(params: ListParams): PageAsked {
  const { page, q } = listParams.parse(params);
  return { offset: (page - 1) * LINES_A_PAGE, limit: LINES_A_PAGE, search: q };
}
/** The same for fields: which state they are in, in which order, and of which farm. */
export function fieldsAsked(params: ListParams): Required<FieldsAsked> & { farm: string | null } {
  return { ...pageOf(params), ...fieldParams.parse(params) };
}
