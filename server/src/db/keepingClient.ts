import { createHash } from 'node:crypto';
import pg from 'pg';

const KEPT = '/* kept */ ';

/**
 * Marks a statement that is sent again and again: the connection keeps it prepared, for planning a statement over many
 * tables takes longer than running it. Of those whose plan hangs on what is asked PostgreSQL goes on planning each.
 */
export const kept = (statement: string): string => `${KEPT}${statement}`;

const names = new Map<string, string>();

/** A connection that prepares what is marked so. */
export class KeepingClient extends pg.Client {
  // biome-ignore lint/suspicious/noExplicitAny: as many forms as the driver's own
  override query(...given: any[]): any {
    const [text, ...rest] = given;
    const statement = typeof text === 'string' && text.startsWith(KEPT) ? { name: nameOf(text), text } : text;
    return Reflect.apply(super.query, this, [statement, ...rest]);
  }
}

/** One name for one text, within the 63 bytes that PostgreSQL takes. */
function nameOf(text: string): string {
  const known = names.get(text) ?? createHash('sha1').update(text).digest('hex');
  names.set(text, known);
  return known;
}
