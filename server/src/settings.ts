/** What the environment decides. Secrets come from here alone. */
export interface Settings {
  readonly databaseUrl: string;
  readonly host: string;
  readonly port: number;
  /** Folder with the built interface; none: only the HTTP interface is served. */
  readonly webFolder: string | undefined;
  readonly logLevel: string;
  /** Hosts with port on this computer or network that may be asked for pictures all the same: the demo's stand-in web. */
  readonly fetchesFrom: readonly string[];
  /** Every answer is held against its contract, and one that does not fit is answered with 500: for tests. */
  readonly checksAnswers: boolean;
}

export function settingsFrom(environment: NodeJS.ProcessEnv): Settings {
  const databaseUrl = environment.DATABASE_URL;
  if (!databaseUrl)
    throw new Error('DATABASE_URL is not set: the address of the PostgreSQL database is needed.');
  const port = Number(environment.PORT ?? 4870);
  if (!Number.isInteger(port) || port < 1 || port > 65_535)
    throw new Error(`PORT is no port number: ${environment.PORT}`);
  return {
    databaseUrl,
    host: '127.0.0.1',
    port,
    webFolder: environment.WEB_FOLDER,
    logLevel: environment.LOG_LEVEL ?? 'info',
    fetchesFrom: (environment.FETCHES_FROM ?? '').split(',').filter((host) => host !== ''),
    checksAnswers: environment.CHECKS_ANSWERS === '1',
  };
}
