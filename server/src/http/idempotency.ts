import { createHash } from 'node:crypto';
import { canonicalText } from '@ladder/core';
import type { Request } from 'express';
import type { EntityManager } from 'typeorm';
import { IdempotencyKeyEntity } from '../db/entities/idempotencyKey.ts';
import type { Connection } from '../db/sql.ts';
import { goOnWithout } from '../db/transactions.ts';
import { Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import type { Reply } from './reply.ts';
import { type KeyScope, keepAnswer, takeKey } from './repository.ts';

const KEPT_MS = 24 * 3_600_000;

/** A press as it came, and what tells its repeats from other requests: the body, unless told otherwise. */
interface Press {
  readonly person: Person;
  readonly request: Request;
  readonly now: number;
  readonly content?: unknown;
}

/**
 * Does the work once for a person and an Idempotency-Key, in the caller's transaction (S35). A repeat gets the first
 * answer, a refusal too; of two at once the second waits on the key's row until the first has ended.
 */
export async function once(tx: EntityManager, press: Press, work: () => Promise<Reply>): Promise<Reply> {
  const claim = claimOf(press);
  if (!claim) return work();
  if (!(await takeKey(tx, claim.scope, claim.hash, press.now, KEPT_MS))) return replay(tx, claim);
  return keep(tx, claim, await work());
}

/**
 * The same for work that is short: what it asks first goes with the key and is not waited with. Where the key was taken, what
 * it did is given up with the transaction: {@link replayed} has the answer.
 */
export async function onceTogether(tx: EntityManager, press: Press, work: () => Promise<Reply>): Promise<Reply> {
  const claim = claimOf(press);
  if (!claim) return work();
  const [taken, done] = await Promise.allSettled([takeKey(tx, claim.scope, claim.hash, press.now, KEPT_MS), work()]);
  if (taken.status === 'rejected') throw taken.reason;
  if (!taken.value) throw new Repeat(claim);
  if (done.status === 'rejected') throw done.reason;
  return keep(tx, claim, done.value);
}

/** The first answer, where it is a repeat that was given up. */
export async function replayed(connection: Connection, error: unknown): Promise<Reply> {
  if (!(error instanceof Repeat)) throw error;
  return replay(connection, error.claim);
}

class Repeat extends Error {
  constructor(readonly claim: Claim) {
    super('The press was made before');
  }
}

/** Whose key it is, and for what. */
interface Claim {
  readonly scope: KeyScope;
  readonly hash: Buffer;
}

function claimOf({ person, request, content = request.body }: Press): Claim | null {
  const key = request.get('Idempotency-Key');
  if (!key) return null;
  if (key.length > 200)
    throw new Problem(400, 'An Idempotency-Key has at most 200 characters.', {
      errors: [{ pointer: '/header/Idempotency-Key', detail: 'At most 200 characters.' }],
    });
  const hash = createHash('sha256')
    .update(`${request.method} ${request.originalUrl} ${canonicalText(content ?? null)}`)
    .digest();
  return { scope: { person: person.id, key }, hash };
}

/** Written out once: it is kept, and sent as it is kept. */
function keep(tx: EntityManager, { scope }: Claim, result: Reply): Reply {
  const written = result.body === undefined ? result : { written: JSON.stringify(result.body), ...result };
  goOnWithout(tx, keepAnswer(tx, scope, written));
  return written;
}

async function replay(connection: Connection, { scope: { person, key }, hash }: Claim): Promise<Reply> {
  const row = await connection.getRepository(IdempotencyKeyEntity).findOneBy({ personId: person, key });
  if (!row?.requestHash.equals(hash)) throw new Problem(422, 'This Idempotency-Key was used for another request.');
  const answer = JSON.parse(row.answer ?? '{}') as Reply;
  return row.status === null ? answer : { ...answer, status: row.status };
}
