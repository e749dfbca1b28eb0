import { endpoints } from '@ladder/contract';
import type { Router } from 'express';
import { type Context, inCommand } from '../context.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { Problem } from '../problems/problem.ts';
import { askToCancel, findAllWork, type WorkView } from './repository.ts';
import { requireWork } from './startWork.ts';

export function workRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.listWork, async ({ query }) => reply(await listWork(context, query)));
  register(router, context, endpoints.getWork, async ({ params }) => reply(await requireWork(context, params.work)));
  register(router, context, endpoints.cancelWork, async ({ params }) => reply(await cancelWork(context, params.work)));
}

async function listWork(
  context: Context,
  query: { subject?: string; after?: string; limit?: number },
): Promise<unknown> {
  const limit = query.limit ?? DEFAULT_LIMIT;
  const cursor = readCursor(query.after, ['number']);
  const rows = await findAllWork(context.dataSource, query.subject, limit + 1, cursor?.[0]);
  return toPage(
    rows,
    limit,
    ({ place }) => [place],
    ({ view }) => view,
  );
}

/** Asks whoever does a work to stop; it is over once its transaction is rolled back. */
async function cancelWork(context: Context, id: string): Promise<WorkView> {
  const { state } = await requireWork(context, id);
  const isAsked = state === 'running' && (await inCommand(context, (tx) => askToCancel(tx, id)));
  if (!isAsked) throw new Problem(409, 'This cannot be stopped any more.');
  return requireWork(context, id);
}
