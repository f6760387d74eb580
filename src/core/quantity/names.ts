/**
 * `yieldGoalTHa` -> `yield_goal_t_ha`: the open edge (plan file, methods, command line) speaks
 * snake_case. Names that begin with a capital
 * are symbols (K, Zn, NO3_N) and stay, and so does what holds an underscore already.
 */
export const toSnake = (name: string): string =>
  /^[a-z][a-zA-Z0-9]*$/.test(name) ? name.replace(/[A-Z]/g, (c) => `_${c.toLowerCase()}`) : name;
export const toCamel = (name: string): string =>
  name.replace(/_([a-z0-9])/g, (_, c: string) => c.toUpperCase());

const renameKeys = (value: unknown, rename: (k: string) => string): unknown => {
  if (Array.isArray(value)) return value.map((v) => renameKeys(v, rename));
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(
    Object.entries(value).map(([k, v]) => [rename(k), renameKeys(v, rename)]),
  );
};
export const snakeKeys = (value: unknown): unknown => renameKeys(value, toSnake);
export const camelKeys = (value: unknown): unknown => renameKeys(value, toCamel);

/** The type of a name after `toCamel`. */
export type Camel<S extends string> = S extends `${infer A}_${infer B}`
  ? `${A}${Capitalize<Camel<B>>}`
  : S;
