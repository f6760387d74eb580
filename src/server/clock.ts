import { format } from 'date-fns';

/**
 * Today as a calendar date. The demo stands on a fixed day (FURROW_TODAY), so that its seasons stay
 * as they were written.
 */
export const today = (): string => process.env.FURROW_TODAY ?? format(new Date(), 'yyyy-MM-dd');
export const isDemoDay = (): boolean => process.env.FURROW_TODAY !== undefined;
/** The moment; on the demo's day, it is that day at this hour. */
export const now = (): string => `${today()}${new Date().toISOString().slice(10)}`;
export const newId = (): string => crypto.randomUUID();
