/** What the environment sets; ./nailset start fills it in. docs/operations.md lists every variable. */
export interface Settings {
  readonly databaseUrl: string;
  /** The role that owns the tables and migrates them; the server’s own role need not. */
  readonly ownerUrl: string;
  readonly host: string;
  readonly port: number;
  /** Offer the demo people on the sign-in page. */
  readonly demo: boolean;
  /** Needed to start a first course; without it nobody can. */
  readonly courseKey: string | undefined;
  /** Longest time for one check. */
  readonly checkSeconds: number;
  /** How many checks this process runs at a time; 0 leaves them to others. */
  readonly checks: number;
  /** Prepare for every kind of request while there are none; without it the first of a kind takes longer. */
  readonly warmUp: boolean;
  /** Cookies only over HTTPS; set where a proxy provides it. */
  readonly secureCookies: boolean;
  /** Addresses or networks of proxies that are believed about who asks. */
  readonly trustedProxies: readonly string[];
  /** Where people reach this installation, for links in mail. */
  readonly publicUrl: string | undefined;
  readonly smtpUrl: string | undefined;
  readonly mailFrom: string;
  /** Lets a program elsewhere read /metrics. */
  readonly metricsToken: string | undefined;
  readonly logLevel: string;
  readonly logFolder: string | undefined;
}

/** @throws Error naming the variable that is missing or wrong. */
export function settingsFrom(environment: NodeJS.ProcessEnv): Settings {
  const given = (name: string): string | undefined => environment[name]?.trim() || undefined;
  const number = (name: string, preset: number, least: number, most: number): number => {
    const value = Number(given(name) ?? preset);
    if (!(value >= least && value <= most)) throw new Error(`${name} must be a number from ${least} to ${most}.`);
    return value;
  };
  const databaseUrl = given('DATABASE_URL');
  if (!databaseUrl) throw new Error('DATABASE_URL is not set; it says which PostgreSQL database to use.');
  const smtpUrl = given('NAILSET_SMTP_URL');
  const publicUrl = given('NAILSET_PUBLIC_URL')?.replace(/\/$/, '');
  if (smtpUrl && !publicUrl) throw new Error('NAILSET_PUBLIC_URL is not set; links in mail begin with it.');
  const secureCookies = given('NAILSET_SECURE_COOKIES') === '1';
  return {
    databaseUrl,
    ownerUrl: given('NAILSET_OWNER_URL') ?? databaseUrl,
    port: Math.trunc(number('NAILSET_PORT', 4180, 0, 65535)),
    checkSeconds: number('NAILSET_CHECK_SECONDS', 5, 0.001, 600),
    checks: Math.trunc(number('NAILSET_CHECKS', 2, 0, 64)),
    host: given('NAILSET_HOST') ?? '127.0.0.1',
    demo: given('NAILSET_DEMO') === '1',
    courseKey: given('NAILSET_COURSE_KEY'),
    warmUp: given('NAILSET_WARM_UP') !== '0',
    secureCookies,
    trustedProxies: (given('NAILSET_TRUSTED_PROXIES') ?? (secureCookies ? 'loopback' : ''))
      .split(',')
      .map((name) => name.trim())
      .filter(Boolean),
    publicUrl,
    smtpUrl,
    mailFrom: given('NAILSET_MAIL_FROM') ?? 'nailset@localhost',
    metricsToken: given('NAILSET_METRICS_TOKEN'),
    logLevel: given('NAILSET_LOG_LEVEL') ?? 'info',
    logFolder: given('NAILSET_LOGS'),
  };
}
