import { endpoints } from '@ladder/contract';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { choicesOf, choose, listNotices, readNotices, setWatching, unreadOf, watchersOf } from './service.ts';

export function bellRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.listNotices, async ({ person, query }) =>
    reply(await listNotices(context, person, query)),
  );
  register(router, context, endpoints.countUnread, async ({ person }) => reply(await unreadOf(context, person)));
  register(router, context, endpoints.readNotices, async ({ person, body }) =>
    reply(await readNotices(context, person, body)),
  );
  register(router, context, endpoints.getBellChoices, async ({ person }) => reply(await choicesOf(context, person)));
  register(router, context, endpoints.setBellChoices, async ({ person, body }) =>
    reply(await choose(context, person, body)),
  );
  register(router, context, endpoints.getWatchers, async ({ person, params }) =>
    reply(await watchersOf(context, person, params.deal)),
  );
  register(router, context, endpoints.watchDeal, async ({ person, params }) =>
    reply(await setWatching(context, person, params.deal, 'yes')),
  );
  register(router, context, endpoints.unwatchDeal, async ({ person, params }) =>
    reply(await setWatching(context, person, params.deal, 'no')),
  );
}
