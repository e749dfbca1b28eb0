import { endpoints } from '@ladder/contract';
import type { MoveTarget } from '@ladder/core';
import type { Router } from 'express';
import { type Context, inTransaction } from '../context.ts';
import { once } from '../http/idempotency.ts';
import { invalid } from '../http/problem.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { listJournal } from './journal.ts';
import { getLanes } from './lanes.ts';
import { listDeals } from './list.ts';
import { askGate, giveUpAttempt, makeMove, takeMoveBack } from './moves.ts';
import { addActivity, addDeal, changeDeal, getDeal, tickDealItem } from './service.ts';
import { voidOneDeal } from './voiding.ts';

export function dealRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.getLanes, async ({ params, query, person }) =>
    reply(await getLanes(context, person, params.process, query)),
  );
  register(router, context, endpoints.listDeals, async ({ query, person }) =>
    reply(await listDeals(context, person, query)),
  );
  register(router, context, endpoints.addDeal, ({ body, person, request }) =>
    inTransaction(context, (tx) =>
      once(tx, person, request, context.clock.now(), () => addDeal(context, tx, person, body)),
    ),
  );
  register(router, context, endpoints.getDeal, async ({ params, person }) =>
    reply(await getDeal(context, person, params.deal)),
  );
  register(router, context, endpoints.editDeal, ({ params, body, person, request }) =>
    inTransaction(context, (tx) =>
      once(tx, person, request, context.clock.now(), () => changeDeal(context, tx, person, params.deal, body)),
    ),
  );
  register(router, context, endpoints.tickItem, async ({ params, body, person }) =>
    reply(await tickDealItem(context, person, params.deal, body)),
  );
  register(router, context, endpoints.previewMove, async ({ params, query, person }) =>
    reply(await askGate(context, person, params.deal, targetOf(query))),
  );
  register(router, context, endpoints.moveDeal, ({ params, body, person, request }) =>
    inTransaction(context, (tx) =>
      once(tx, person, request, context.clock.now(), () => makeMove(context, tx, person, params.deal, body)),
    ),
  );
  register(router, context, endpoints.takeBackMove, ({ params, body, person, request }) =>
    inTransaction(context, (tx) =>
      once(tx, person, request, context.clock.now(), () => takeMoveBack(context, tx, person, params.deal, body)),
    ),
  );
  register(router, context, endpoints.withdrawAttempt, async ({ params, person }) =>
    reply(await giveUpAttempt(context, person, params.deal)),
  );
  register(router, context, endpoints.addActivity, async ({ params, body, person }) =>
    reply(await addActivity(context, person, params.deal, body)),
  );
  register(router, context, endpoints.voidDeal, async ({ params, body, person }) =>
    reply(await voidOneDeal(context, person, params.deal, body)),
  );
  register(router, context, endpoints.listJournal, async ({ params, query, person }) =>
    reply(await listJournal(context, person, params.deal, query)),
  );
}

function targetOf(query: { readonly to: 'stage' | 'won' | 'lost'; readonly stage?: string }): MoveTarget {
  if (query.to !== 'stage') return { to: query.to };
  if (query.stage === undefined) throw invalid([{ pointer: '/query/stage', detail: 'Name the stage to move to.' }]);
  return { to: 'stage', stage: query.stage };
}
