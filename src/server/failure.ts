// What went wrong inside, told to the log without a farm's data and to the user in words.

const codeOf = (e: unknown): string | undefined => {
  for (let x = e; x instanceof Error; x = x.cause) {
    const { code } = x as Error & { code?: unknown };
    if (typeof code === 'string') return code;
  }
  return undefined;
};
/** Codes of PostgreSQL and of the machine for a disk that takes no more. */
const DISK: Record<string, string> = {
  '53100': 'The disk is full',
  ENOSPC: 'The disk is full',
  EDQUOT: 'The disk is full',
  EROFS: 'The disk can’t be written',
  EACCES: 'The disk can’t be written',
  '58030': 'The disk does not answer as it should',
  EIO: 'The disk does not answer as it should',
};
const innermost = (e: unknown): unknown =>
  e instanceof Error && e.cause instanceof Error ? innermost(e.cause) : e;

/** What is wrong with the disk, in words; null where it is something else. */
export function diskProblem(e: unknown): string | null {
  const known = DISK[codeOf(e) ?? ''];
  if (known) return known;
  const inner = innermost(e);
  return inner instanceof Error && /no space left|disk full/i.test(inner.message)
    ? 'The disk is full'
    : null;
}

/** A failure for the log: kind, code and place, but no query's values. */
export function failureLine(e: unknown): string {
  if (!(e instanceof Error)) return 'Failure of an unknown kind';
  const inner = innermost(e);
  const code = codeOf(e);
  const query = (e as Error & { query?: unknown }).query;
  // The words of a database's error may quote a value; its code and the statement without values
  // do not.
  const what =
    typeof query === 'string'
      ? `query failed: ${query.slice(0, 200)}`
      : inner instanceof Error
        ? inner.message
        : e.message;
  const place = (inner instanceof Error ? inner.stack : e.stack)
    ?.split('\n')
    .find((l) => l.trimStart().startsWith('at '))
    ?.trim();
  return [e.name, code, what, place].filter(Boolean).join(' · ');
}
