import { endpoints } from '@ladder/contract';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { command } from '../http/command.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { handOver } from './handOver.ts';
import { countLate, getToday, listDone } from './service.ts';

export function todayRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.getToday, async ({ query, person }) =>
    reply(await getToday(context, person, query)),
  );
  register(router, context, endpoints.countLate, async ({ person }) => reply(await countLate(context, person)));
  register(router, context, endpoints.listDoneToday, async ({ query, person }) =>
    reply(await listDone(context, person, query)),
  );
  register(router, context, endpoints.handOver, (input) =>
    command(context, input, (tx) => handOver(context, tx, input.person, input.body)),
  );
}
