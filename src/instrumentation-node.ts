import { prepare } from './server/prepare';

/**
 * Opens, migrates and fills the database before the first request; a second process on the same
 * data is refused and ends.
 */
export async function start(): Promise<void> {
  try {
    const handle = await prepare();
    if (!process.env.NEXT_MANUAL_SIG_HANDLE) return;
    const stop = () => void handle.close().then(() => process.exit(0));
    process.on('SIGTERM', stop);
    process.on('SIGINT', stop);
  } catch (e) {
    console.error(e instanceof Error ? e.message : e);
    process.exit(1);
  }
}
