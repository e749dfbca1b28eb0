import type { Endpoint } from '@ladder/contract';
import type { Request, Router } from 'express';
import type { EntityManager } from 'typeorm';
import { type Context, inCommand } from '../context.ts';
import { inOrder } from '../db/inOrder.ts';
import type { Person } from '../session/person.ts';
import { once, onceQuickly } from './idempotency.ts';
import { type Input, registerQuick } from './register.ts';
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

/** Puts a short command on the router: session and what it asks first go to the database at once. */
export function registerPress<Params, Query, Body, Answer>(
  router: Router,
  context: Context,
  endpoint: Endpoint<Params, Query, Body, Answer>,
  work: (tx: EntityManager, input: Input<Params, Query, Body>) => Promise<Reply>,
): void {
  registerQuick(router, context, endpoint, (input, lookAtSession) => {
    const press = { person: input.person, request: input.request, now: context.clock.now() };
    return onceQuickly(context.dataSource, press, (keep) =>
      inCommand(context, async (tx) => {
        const [, answer] = await inOrder(lookAtSession(tx), work(tx, input));
        return keep(tx, answer);
      }),
    );
  });
}
