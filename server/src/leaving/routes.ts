import { endpoints } from '@ladder/contract';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { longCommand } from '../longWork/startWork.ts';
import { accountOf } from '../people/people.ts';
import { getHoldings, leavingToBegin } from './leaving.ts';

export function leavingRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.getHoldings, async ({ params }) =>
    reply(await getHoldings(context, params.person)),
  );
  register(router, context, endpoints.leave, (input) => {
    const leaving = { person: input.params.person, to: input.body.to };
    return longCommand(
      context,
      input,
      (tx) => leavingToBegin(tx, leaving, input.person.id),
      () => accountOf(context, leaving.person),
    );
  });
}
