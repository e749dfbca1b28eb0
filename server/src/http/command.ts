import type { Request } from 'express';
import type { EntityManager } from 'typeorm';
import { type Context, inCommand } from '../context.ts';
import { inOrder } from '../db/inOrder.ts';
import type { Person } from '../session/person.ts';
import { once, onceTogether, replayed } from './idempotency.ts';
import type { LookAtSession } from './register.ts';
import type { Reply } from './reply.ts';

interface Asked {
  readonly person: Person;
  readonly request: Request;
}

/** One command in a transaction of its own, done once for its Idempotency-Key. */
export const command = (
  context: Context,
  { person, request }: Asked,
  work: (tx: EntityManager) => Promise<Reply>,
): Promise<Reply> =>
  inCommand(context, (tx) => once(tx, { person, request, now: context.clock.now() }, () => work(tx)));

/** The same for one that is short: session, key and what it asks first go to the database at once. */
export const quickCommand = (
  context: Context,
  { person, request }: Asked,
  lookAtSession: LookAtSession,
  work: (tx: EntityManager) => Promise<Reply>,
): Promise<Reply> =>
  inCommand(context, async (tx) => {
    const [, reply] = await inOrder(
      lookAtSession(tx),
      onceTogether(tx, { person, request, now: context.clock.now() }, () => work(tx)),
    );
    return reply;
  }).catch((error: unknown) => replayed(context.dataSource, error));
