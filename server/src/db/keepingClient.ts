import { createHash } from 'node:crypto';
import type { Duplex } from 'node:stream';
import pg from 'pg';

const KEPT = '/* kept */ ';

/**
 * Marks a statement that is sent again and again: the connection keeps it prepared, for planning a statement over many
 * tables takes longer than running it. Of those whose plan hangs on what is asked PostgreSQL goes on planning each.
 */
export const kept = (statement: string): string => `${KEPT}${statement}`;

const names = new Map<string, string>();

const BEGIN = 'START TRANSACTION';
const BEGUN = { command: 'START', rows: [], rowCount: null };

interface Sending {
  readonly connection: { readonly stream: Pick<Duplex, 'cork' | 'uncork'> };
}

/**
 * A connection that prepares what is marked so, and sends what is asked for at once together, for waiting for each answer
 * takes longer than most answers. They come in the order of what was asked; where one fails within a transaction, so do
 * those behind it.
 */
export class KeepingClient extends pg.Client {
  constructor(config: pg.ClientConfig) {
    super({ ...config, pipeline: true } as pg.ClientConfig);
  }

  // biome-ignore lint/suspicious/noExplicitAny: as many forms as the driver's own
  override query(...given: any[]): any {
    this.sendTogether();
    const [text, ...rest] = given;
    const statement = typeof text === 'string' && text.startsWith(KEPT) ? { name: nameOf(text), text } : text;
    const result = Reflect.apply(super.query, this, [statement, ...rest]);
    return text === BEGIN && result instanceof Promise ? begun(result) : result;
  }

  /** What is asked for before anything else can happen goes in one write. */
  private sendTogether(): void {
    const { stream } = (this as unknown as Sending).connection;
    stream.cork();
    process.nextTick(() => stream.uncork());
  }
}

/** A beginning is not waited for: where it fails, so does whatever comes next. */
function begun(beginning: Promise<unknown>): Promise<typeof BEGUN> {
  beginning.catch(() => undefined);
  return Promise.resolve(BEGUN);
}

/** One name for one text, within the 63 bytes that PostgreSQL takes. */
function nameOf(text: string): string {
  const known = names.get(text) ?? createHash('sha1').update(text).digest('hex');
  names.set(text, known);
  return known;
}
