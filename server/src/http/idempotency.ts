import { createHash } from 'node:crypto';
import { canonicalText } from '@ladder/core';
import type { Request } from 'express';
import type { EntityManager } from 'typeorm';
import { at, sql } from '../db/sql.ts';
import { Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import type { Reply } from './reply.ts';

interface KeyRow {
  readonly request_hash: Buffer;
  readonly status: number | null;
  readonly answer: unknown;
}

const KEPT_MS = 24 * 3_600_000;

/**
 * Does the work once for a person and an Idempotency-Key, in the caller's transaction (S35). A repeat gets the first
 * answer, a refusal too; of two at once the second waits on the key's row until the first has ended.
 */
export async function once(
  tx: EntityManager,
  person: Person,
  request: Request,
  now: number,
  work: () => Promise<Reply>,
): Promise<Reply> {
  const key = request.get('Idempotency-Key');
  if (!key) return work();
  if (key.length > 200)
    throw new Problem(400, 'An Idempotency-Key has at most 200 characters.', {
      errors: [{ pointer: '/header/Idempotency-Key', detail: 'At most 200 characters.' }],
    });
  const scope = { person: person.id, key };
  await sql(tx, `delete from idempotency_keys where created_at < :before`, { before: at(now - KEPT_MS) });
  const hash = createHash('sha256')
    .update(`${request.method} ${request.originalUrl} ${canonicalText(request.body ?? null)}`)
    .digest();
  const taken = await sql(
    tx,
    `insert into idempotency_keys (person_id, key, request_hash, created_at) values (:person, :key, :hash, :now)
     on conflict do nothing returning key`,
    { ...scope, hash, now: at(now) },
  );
  if (taken.length === 0) return replay(tx, scope, hash);
  const result = await work();
  await sql(
    tx,
    `update idempotency_keys set status = :status, answer = :answer where person_id = :person and key = :key`,
    {
      ...scope,
      status: result.status ?? null,
      answer: { body: result.body, headers: result.headers },
    },
  );
  return result;
}

async function replay(tx: EntityManager, scope: { person: string; key: string }, hash: Buffer): Promise<Reply> {
  const [row] = await sql<KeyRow>(
    tx,
    `select request_hash, status, answer from idempotency_keys where person_id = :person and key = :key`,
    scope,
  );
  if (!row?.request_hash.equals(hash)) throw new Problem(422, 'This Idempotency-Key was used for another request.');
  const answer = row.answer as Reply;
  return row.status === null ? answer : { ...answer, status: row.status };
}
