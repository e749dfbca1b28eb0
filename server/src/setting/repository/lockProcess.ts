import type { ProcessId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { sql } from '../../db/sql.ts';

/**
 * Holds a process until the transaction ends. A publish waits for deals that are just being begun in the version that is
 * live, and they for the publish, so that none is left behind on the older version.
 */
export async function lockProcess(tx: EntityManager, process: ProcessId, purpose: 'begin' | 'publish'): Promise<void> {
  const strength = purpose === 'publish' ? 'no key update' : 'share';
  await sql(tx, `select id from processes where id = :process for ${strength}`, { process });
}
