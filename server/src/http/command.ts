import type { Request } from 'express';
import type { EntityManager } from 'typeorm';
import { type Context, inCommand } from '../context.ts';
import type { Person } from '../session/person.ts';
import { once } from './idempotency.ts';
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
): Promise<Reply> => inCommand(context, (tx) => once(tx, person, request, context.clock.now(), () => work(tx)));
