import { endpoints } from '@ladder/contract';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { getWork, listDone, listPastDue, listRuns } from './service.ts';

export function stepReportRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.getStepWork, async ({ params, query, person }) =>
    reply(await getWork(context, person, params.process, query)),
  );
  register(router, context, endpoints.listStepsDone, async ({ params, query, person }) =>
    reply(await listDone(context, person, params.process, query)),
  );
  register(router, context, endpoints.listPastDue, async ({ query, person }) =>
    reply(await listPastDue(context, person, query)),
  );
  register(router, context, endpoints.listStepRuns, async ({ params, query, person }) =>
    reply(await listRuns(context, person, params.process, query)),
  );
}
