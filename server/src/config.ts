/** What the server is told from outside, through environment variables. */
export interface Config {
  readonly host: string;
  readonly port: number;
  readonly databaseUrl: string;
  /** The built web application; null where another server serves it. */
  readonly webRoot: string | null;
  readonly logLevel: string;
}

/** Reads the configuration. Throws, naming the variable, where one is missing or wrong. */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  const databaseUrl = env.DATABASE_URL;
  if (!databaseUrl) throw new Error('DATABASE_URL is not set. `npm start` sets it for a database of its own.');
  const port = Number(env.PORT ?? 4600);
  if (!Number.isInteger(port) || port < 0 || port > 65_535)
    throw new Error(`PORT must be a whole number from 0 to 65535, not “${env.PORT}”.`);
  return {
    host: env.HOST ?? '127.0.0.1',
    port,
    databaseUrl,
    webRoot: env.WEB_ROOT ?? null,
    logLevel: env.LOG_LEVEL ?? 'info',
  };
}
