import { type EntityManager, LessThan, MoreThanOrEqual } from 'typeorm';
import { IdempotencyKeyEntity, type IdempotencyKeyRow } from '../db/entities/idempotencyKey.ts';
import { brokenConstraint } from '../db/failures.ts';
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

/** Whose key it is, and for what. */
export interface Claim {
  readonly scope: KeyScope;
  readonly hash: Buffer;
}

/**
 * Takes a key for a request; false where it was taken, which is waited for while someone is just taking it. One that is of
 * before `since` begins anew.
 */
export async function takeKey(tx: EntityManager, { scope, hash }: Claim, now: number, since: number): Promise<boolean> {
  const taken = await sql(
    tx,
    `insert into idempotency_keys as k (person_id, key, request_hash, created_at) values (:person, :key, :hash, :now)
     on conflict (person_id, key) do update set request_hash = excluded.request_hash, created_at = excluded.created_at, status = null, answer = null
       where k.created_at < :since returning key`,
    { ...scope, hash, now: at(now), since: at(since) },
  );
  return taken.length > 0;
}

export const keepAnswer = (tx: EntityManager, scope: KeyScope, answer: Reply): Promise<unknown> =>
  sql(tx, `update idempotency_keys set status = :status, answer = :answer where person_id = :person and key = :key`, {
    ...scope,
    ...answerColumns(answer),
  });

/** Takes a key and keeps the answer under it at once: a row that grew would move, and be written to its indexes again. */
export const addAnswer = (tx: EntityManager, { scope, hash }: Claim, answer: Reply, now: number): Promise<unknown> =>
  sql(
    tx,
    kept(
      `insert into idempotency_keys (person_id, key, request_hash, created_at, status, answer) values (:person, :key, :hash, :now, :status, :answer)`,
    ),
    { ...scope, hash, now: at(now), ...answerColumns(answer) },
  );

const answerColumns = ({ status, written, headers }: Reply) => ({
  status: status ?? null,
  answer: `{${written === undefined ? '' : `"body":${written},`}"headers":${JSON.stringify(headers ?? {})}}`,
});

export const isKeyTaken = (error: unknown): boolean => brokenConstraint(error) === 'idempotency_keys_pkey';

export type KeptAnswer = Pick<IdempotencyKeyRow, 'requestHash' | 'status' | 'answer'>;

export const findAnswer = (
  connection: Connection,
  { person, key }: KeyScope,
  since: number,
): Promise<KeptAnswer | null> =>
  connection
    .getRepository(IdempotencyKeyEntity)
    .findOneBy({ personId: person, key, createdAt: MoreThanOrEqual(new Date(since)) });

/** Lets go of a key that is of before `since`. */
export const forgetKey = (connection: Connection, { person, key }: KeyScope, since: number): Promise<unknown> =>
  connection
    .getRepository(IdempotencyKeyEntity)
    .delete({ personId: person, key, createdAt: LessThan(new Date(since)) });
