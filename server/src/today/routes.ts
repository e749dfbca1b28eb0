import { endpoints } from '@ladder/contract';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { command } from '../http/command.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { getCalendar } from './calendar.ts';
import { getFeed, makeFeed, readFeed, revokeFeed } from './feed.ts';
import { handOver } from './handOver.ts';
import { countLate, getToday, listDone } from './service.ts';

export function todayRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.getToday, async ({ query, person }) =>
    reply(await getToday(context, person, query)),
  );
  register(router, context, endpoints.getCalendar, async ({ query, person }) =>
    reply(await getCalendar(context, person, query)),
  );
  register(router, context, endpoints.getFeed, async ({ person }) => reply(await getFeed(context, person)));
  register(router, context, endpoints.makeFeed, async ({ person }) => reply(await makeFeed(context, person)));
  register(router, context, endpoints.revokeFeed, async ({ person }) => {
    await revokeFeed(context, person);
    return {};
  });
  register(router, context, endpoints.readFeed, async ({ query, request, response }) => {
    const text = await readFeed(context, query.key, `${request.protocol}://${request.get('Host')}`);
    response.set('Cache-Control', 'private, no-store').type('text/calendar; charset=utf-8').send(text);
    return {};
  });
  register(router, context, endpoints.countLate, async ({ person }) => reply(await countLate(context, person)));
  register(router, context, endpoints.listDoneToday, async ({ query, person }) =>
    reply(await listDone(context, person, query)),
  );
  register(router, context, endpoints.handOver, (input) =>
    command(context, input, (tx) => handOver(context, tx, input.person, input.body)),
  );
}
