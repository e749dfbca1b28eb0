import type { ProcessId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { inOrder } from '../../db/inOrder.ts';
import { sql } from '../../db/sql.ts';

/**
 * Holds a process until the transaction ends. A publish waits for deals that are just being begun in the version that is
 * live, and they for the publish, so that none is left behind on the older version.
 */
export async function lockProcess(tx: EntityManager, process: ProcessId, purpose: 'begin' | 'publish'): Promise<void> {
  const strength = purpose === 'publish' ? 'no key update' : 'share';
  await sql(tx, `select id from processes where id = :process for ${strength}`, { process });
}

/** The lock that is shared by all who write deals of a process, by the column or parameter that has the process. */
export const WRITERS_LOCK = (process: string): string => `hashtextextended(${process}::text, 1)`;

/** Whoever writes deals waits behind a publish that waits for others: not for longer than this. */
const PATIENCE_MS = 250;

/** Waits until nobody is writing deals of a process, and holds that until the transaction ends. */
export async function awaitWriters(tx: EntityManager, process: ProcessId): Promise<void> {
  await inOrder(
    sql(tx, `set local lock_timeout = ${PATIENCE_MS}`),
    sql(tx, `select pg_advisory_xact_lock(${WRITERS_LOCK(':process')})`, { process }),
  );
}
