import path from 'node:path';
import { type Logger, type LoggerOptions, pino } from 'pino';

/** Largest log file, and how many full ones are kept beside the newest. */
const size = '10m';
const kept = 9;

/** Fields whose values nobody needs in a log; texts that people send are never logged at all. */
const hidden = ['email', 'password', 'passwordHash', 'token'].flatMap((field) => [field, `*.${field}`]);

/**
 * The log: to the standard output, or to files in a folder that only their owner reads, a new one every ten megabytes.
 * No e-mail, hash or query parameter gets into it.
 */
export function openLog(level: string, folder: string | undefined, name: string): Logger {
  const options: LoggerOptions = { level, serializers: { err: errorForLog }, redact: hidden };
  if (!folder) return pino(options);
  const file = path.join(folder, name);
  return pino({
    ...options,
    transport: {
      target: 'pino-roll',
      options: { file, extension: '.log', size, limit: { count: kept }, mkdir: true, mode: 0o600 },
    },
  });
}

/** What went wrong and where; of a failed query neither its text nor its parameters, which hold what people typed. */
export function errorForLog(error: unknown): object {
  if (!(error instanceof Error)) return { message: 'not an error' };
  let inner = error;
  while (inner.cause instanceof Error) inner = inner.cause;
  const { code } = inner as Error & { code?: unknown };
  return {
    type: inner.name,
    ...(code === undefined ? {} : { code }),
    message: inner.message.split('\n')[0],
    at: (error.stack ?? '')
      .split('\n')
      .filter((line) => /^\s+at /.test(line))
      .slice(0, 8)
      .map((line) => line.trim()),
  };
}
