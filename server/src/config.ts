import type { MailConfig } from './messages/mailer.ts';

/** What the server is told from outside, through environment variables. */
export interface Config {
  readonly host: string;
  readonly port: number;
  readonly databaseUrl: string;
  /** The built web application; null where another server serves it. */
  readonly webRoot: string | null;
  readonly logLevel: string;
  /** Addresses or networks of proxies whose word on the caller's address and on TLS is taken; empty where there are none. */
  readonly trustedProxies: readonly string[];
  /** A session ends when it was not used for so long. */
  readonly sessionIdleMs: number;
  /** No document may be larger. */
  readonly documentMostBytes: number;
  readonly mail: MailConfig;
}

const HOUR_MS = 3_600_000;
const LOG_LEVELS = ['fatal', 'error', 'warn', 'info', 'debug', 'trace', 'silent'];

/** Reads the configuration. Throws, naming the variable, where one is missing or wrong. */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  const databaseUrl = env.DATABASE_URL;
  if (!databaseUrl) throw new Error('DATABASE_URL is not set. `npm start` sets it for a database of its own.');
  return {
    host: env.HOST || '127.0.0.1',
    port: wholeNumber('PORT', env.PORT, 4600, 0, 65_535),
    databaseUrl,
    webRoot: env.WEB_ROOT || null,
    logLevel: readLogLevel(env.LOG_LEVEL || 'info'),
    trustedProxies: (env.TRUSTED_PROXIES ?? '').split(',').flatMap((part) => part.trim() || []),
    sessionIdleMs: wholeNumber('SESSION_IDLE_HOURS', env.SESSION_IDLE_HOURS, 24, 1, 24 * 14) * HOUR_MS,
    documentMostBytes: wholeNumber('DOCUMENT_MOST_MB', env.DOCUMENT_MOST_MB, 25, 1, 1_000) * 1_000_000,
    mail: readMail(env),
  };
}

/** Mail is handed over where SMTP_URL says, or else to the stand-in. */
function readMail({ SMTP_URL, MAIL_FROM }: NodeJS.ProcessEnv): MailConfig {
  const from = MAIL_FROM || 'Dusty Ladder <ladder@localhost>';
  if (!/^[^\r\n]*<?[^\s@<>]+@[^\s@<>]+>?$/.test(from))
    throw new Error(`MAIL_FROM must be a mail address, or a name with one in angle brackets, not “${from}”.`);
  if (SMTP_URL && !/^smtps?:\/\/\S+$/.test(SMTP_URL)) throw new Error('SMTP_URL must begin with smtp:// or smtps://.');
  return { smtpUrl: SMTP_URL || null, from };
}

function wholeNumber(name: string, text: string | undefined, usual: number, least: number, most: number): number {
  const number = text ? Number(text) : usual;
  if (Number.isInteger(number) && number >= least && number <= most) return number;
  throw new Error(`${name} must be a whole number from ${least} to ${most}, not “${text}”.`);
}

function readLogLevel(level: string): string {
  if (LOG_LEVELS.includes(level)) return level;
  throw new Error(`LOG_LEVEL must be one of ${LOG_LEVELS.join(', ')}, not “${level}”.`);
}
