import { endpoints } from '@ladder/contract';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { longCommand } from '../longWork/startWork.ts';
import { listRates, rateToSet } from './service.ts';

export function rateRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.listRates, async ({ query }) => reply(await listRates(context, query)));
  register(router, context, endpoints.setRate, (input) => {
    const { body } = input;
    return longCommand(
      context,
      input,
      (tx) => rateToSet(tx, body, context.clock.now()),
      async () => body,
    );
  });
}
