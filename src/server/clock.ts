import { format } from 'date-fns';

/**
 * Today as a calendar date. The demo stands on a fixed day (FURROW_TODAY), so that its seasons stay
 * as they were written.
 */
export const today = (): string => process.env.FURROW_TODAY ?? format(new Date(), 'yyyy-MM-dd');
export const isDemoDay = (): boolean => process.env.FURROW_TODAY !== undefined;
export const now = (): string => new Date().toISOString();
export const newId = (): string => crypto.randomUUID();
