import type { EntityManager } from 'typeorm';
import { kept } from '../db/keepingClient.ts';
import { at, type Connection, sql } from '../db/sql.ts';
import type { Reply } from './reply.ts';

export async function newestMigration(connection: Connection): Promise<string | null> {
  const [row] = await sql<{ name: string }>(connection, `select name from migrations order by id desc limit 1`);
  return row?.name ?? null;
}

/** Whose press it is. */
export interface KeyScope {
  readonly person: string;
  readonly key: string;
}

/**
 * Takes a key for a request; false where it was taken, which is waited for while someone is just taking it. One that is older
 * than keys are kept begins anew.
 */
export async function takeKey(
  tx: EntityManager,
  scope: KeyScope,
  hash: Buffer,
  now: number,
  keptMs: number,
): Promise<boolean> {
  const taken = await sql(
    tx,
    kept(`insert into idempotency_keys as k (person_id, key, request_hash, created_at) values (:person, :key, :hash, :now)
     on conflict (person_id, key) do update set request_hash = excluded.request_hash, created_at = excluded.created_at, status = null, answer = null
       where k.created_at < :before returning key`),
    { ...scope, hash, now: at(now), before: at(now - keptMs) },
  );
  return taken.length > 0;
}

export const keepAnswer = (tx: EntityManager, scope: KeyScope, { status, written, headers }: Reply): Promise<unknown> =>
  sql(
    tx,
    kept(`update idempotency_keys set status = :status, answer = :answer where person_id = :person and key = :key`),
    {
      ...scope,
      status: status ?? null,
      answer: `{${written === undefined ? '' : `"body":${written},`}"headers":${JSON.stringify(headers ?? {})}}`,
    },
  );
