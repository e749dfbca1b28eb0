import { createHash } from 'node:crypto';
import { canonicalText } from '@ladder/core';
import type { Request } from 'express';
import type { EntityManager } from 'typeorm';
import { isConnectionLost, OutcomeUnknown } from '../db/failures.ts';
import type { Connection } from '../db/sql.ts';
import { goOnWithout } from '../db/transactions.ts';
import { Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import type { Reply } from './reply.ts';
import {
  addAnswer,
  type Claim,
  findAnswer,
  forgetKey,
  isKeyTaken,
  type KeptAnswer,
  keepAnswer,
  takeKey,
} from './repository.ts';

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
  const since = press.now - KEPT_MS;
  if (!(await takeKey(tx, claim, press.now, since))) return replay(await findAnswer(tx, claim.scope, since), claim);
  const written = writtenOut(await work());
  goOnWithout(tx, keepAnswer(tx, claim.scope, written));
  return written;
}

/** Keeps an answer under its key, in the transaction that it is the answer of. */
export type KeepAnswer = (tx: EntityManager, answer: Reply) => Reply;

const KEEP_NOTHING: KeepAnswer = (_, answer) => answer;

/**
 * The same for work that is short: nobody looks at the key before. An attempt keeps its answer under it as the last that it
 * writes, so that where the key was taken, what a repeat did is given up with its transaction. Where an attempt fails it may
 * be for what its first had done: the key tells, and no refusal is told before that is known.
 */
export async function onceQuickly(
  connection: Connection,
  press: Press,
  attempt: (keep: KeepAnswer) => Promise<Reply>,
): Promise<Reply> {
  const claim = claimOf(press);
  if (!claim) return attempt(KEEP_NOTHING);
  const since = press.now - KEPT_MS;
  try {
    return await attempt((tx, answer) => {
      const written = writtenOut(answer);
      goOnWithout(tx, addAnswer(tx, claim, written, press.now));
      return written;
    });
  } catch (error) {
    const first = await findAnswer(connection, claim.scope, since).catch((failure: unknown) => {
      throw error instanceof OutcomeUnknown || isConnectionLost(error) ? error : failure;
    });
    if (first) return replay(first, claim);
    if (!isKeyTaken(error)) throw error;
    await forgetKey(connection, claim.scope, since);
    return onceQuickly(connection, press, attempt);
  }
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
const writtenOut = (answer: Reply): Reply =>
  answer.body === undefined ? answer : { written: JSON.stringify(answer.body), ...answer };

function replay(row: KeptAnswer | null, { hash }: Claim): Reply {
  if (!row?.requestHash.equals(hash)) throw new Problem(422, 'This Idempotency-Key was used for another request.');
  const answer = JSON.parse(row.answer ?? '{}') as Reply;
  return row.status === null ? answer : { ...answer, status: row.status };
}
