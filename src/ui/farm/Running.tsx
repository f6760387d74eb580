/** How far a long sum in a worker is, with a way to stop it; or why it failed. */
export function Running({
  running,
  of,
  what,
  failed,
  cancel,
}: {
  /** How many are through; null when it does not run. */
  running: number | null;
  of: number;
  /** What is counted, in the plural. */
  what: string;
  failed: string | null;
  cancel: () => void;
}) {
  if (running === null) return failed ?? '';
  return (
    <>
      {running} of {of} {what}{' '}
      <progress
        className="mx-2 align-middle"
        value={running}
        max={of}
        aria-label={`${what} done`}
      />
      <button type="button" className="plain" onClick={cancel}>
        stop
      </button>
    </>
  );
}
