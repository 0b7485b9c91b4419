/** What the environment sets; ./nailset start fills it in. */
export interface Settings {
  readonly databaseUrl: string;
  readonly host: string;
  readonly port: number;
  /** Offer the demo people on the sign-in page. */
  readonly demo: boolean;
  /** Needed to start a first course; without it nobody can. */
  readonly courseKey: string | undefined;
  /** Longest time for one check. */
  readonly checkSeconds: number;
  /** Cookies only over HTTPS; set where a proxy provides it. */
  readonly secureCookies: boolean;
}

/** @throws Error naming the variable that is missing or wrong. */
export function settingsFrom(environment: NodeJS.ProcessEnv): Settings {
  const databaseUrl = environment['DATABASE_URL'];
  if (!databaseUrl) throw new Error('DATABASE_URL is not set; it says which PostgreSQL database to use.');
  const port = Number(environment['NAILSET_PORT'] ?? 4180);
  if (!Number.isInteger(port) || port < 0 || port > 65535) throw new Error('NAILSET_PORT must be a port number.');
  const checkSeconds = Number(environment['NAILSET_CHECK_SECONDS'] ?? 5);
  if (!(checkSeconds > 0)) throw new Error('NAILSET_CHECK_SECONDS must be more than zero.');
  return {
    databaseUrl,
    port,
    checkSeconds,
    host: environment['NAILSET_HOST'] ?? '127.0.0.1',
    demo: environment['NAILSET_DEMO'] === '1',
    courseKey: environment['NAILSET_COURSE_KEY'],
    secureCookies: environment['NAILSET_SECURE_COOKIES'] === '1',
  };
}
