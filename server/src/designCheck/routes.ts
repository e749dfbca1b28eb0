import { endpoints } from '@ladder/contract';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { countRemarks, dismissRemark, listDismissals } from './service.ts';

export function designCheckRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.listDismissals, async ({ params }) =>
    reply(await listDismissals(context, params.process)),
  );
  register(router, context, endpoints.dismissRemark, async ({ params, person, body }) =>
    reply(await dismissRemark(context, person, params.process, body)),
  );
  register(router, context, endpoints.countRemarks, async () => reply(await countRemarks(context)));
}
