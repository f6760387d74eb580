/**
 * A document of some version as it was read: its names are camelCase, its shape is that of its
 * version.
 */
export type Raw = Record<string, unknown>;

/**
 * One step of the chain: takes a valid document of version `from` to version `from` + 1. What the
 * older version could not say gets the
 * value that leaves its figures as they were. A step is frozen: it holds its values itself and
 * leans on no default of today.
 */
export interface Step {
  from: number;
  up: (document: Raw) => Raw;
}
export const objectOf = (v: unknown): Raw =>
  v !== null && typeof v === 'object' && !Array.isArray(v) ? (v as Raw) : {};
export const objectsOf = (v: unknown): Raw[] => (Array.isArray(v) ? v.map(objectOf) : []);
