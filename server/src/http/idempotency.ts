import { createHash } from 'node:crypto';
import { canonicalText } from '@ladder/core';
import type { Request } from 'express';
import type { EntityManager } from 'typeorm';
import { IdempotencyKeyEntity } from '../db/entities/idempotencyKey.ts';
import { lastly } from '../db/transactions.ts';
import { Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import type { Reply } from './reply.ts';
import { type KeyScope, keepAnswer, takeKey } from './repository.ts';

const KEPT_MS = 24 * 3_600_000;

/**
 * Does the work once for a person and an Idempotency-Key, in the caller's transaction (S35). A repeat gets the first
 * answer, a refusal too; of two at once the second waits on the key's row until the first has ended. The content tells
 * repeats from other requests; it is the body unless told otherwise.
 */
export async function once(
  tx: EntityManager,
  person: Person,
  request: Request,
  now: number,
  work: () => Promise<Reply>,
  content: unknown = request.body,
): Promise<Reply> {
  const key = request.get('Idempotency-Key');
  if (!key) return work();
  if (key.length > 200)
    throw new Problem(400, 'An Idempotency-Key has at most 200 characters.', {
      errors: [{ pointer: '/header/Idempotency-Key', detail: 'At most 200 characters.' }],
    });
  const scope = { person: person.id, key };
  const hash = createHash('sha256')
    .update(`${request.method} ${request.originalUrl} ${canonicalText(content ?? null)}`)
    .digest();
  if (!(await takeKey(tx, scope, hash, now, KEPT_MS))) return replay(tx, scope, hash);
  const result = await work();
  // Written out once: it is kept, and sent as it is kept.
  const written = result.body === undefined ? result : { written: JSON.stringify(result.body), ...result };
  lastly(tx, keepAnswer(tx, scope, written));
  return written;
}

async function replay(tx: EntityManager, { person, key }: KeyScope, hash: Buffer): Promise<Reply> {
  const row = await tx.getRepository(IdempotencyKeyEntity).findOneBy({ personId: person, key });
  if (!row?.requestHash.equals(hash)) throw new Problem(422, 'This Idempotency-Key was used for another request.');
  const answer = row.answer as Reply;
  return row.status === null ? answer : { ...answer, status: row.status };
}
