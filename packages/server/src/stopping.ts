import type { Logger } from 'pino';

/** Longest time for what is under way to end. */
const patience = 9_000;

/** Ends the process at a signal, when `stop` has let everything under way end, or its time is over. */
export function stopOnSignal(log: Logger, stop: () => Promise<void>): void {
  const leave = async (signal: string): Promise<void> => {
    log.info({ signal }, 'stopping');
    setTimeout(() => process.exit(0), patience).unref();
    await stop().catch((error: unknown) => log.error({ err: error }, 'stopping was not clean'));
    process.exit(0);
  };
  process.once('SIGINT', (signal) => void leave(signal));
  process.once('SIGTERM', (signal) => void leave(signal));
}
