import { endpoints } from '@ladder/contract';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { register, registerQuick } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { getCompliance, listFindings } from './service.ts';

export function complianceRoutes(router: Router, context: Context): void {
  registerQuick(router, context, endpoints.getCompliance, async ({ params, query, person }, look) =>
    reply(await getCompliance(context, person, params.process, query, look)),
  );
  register(router, context, endpoints.listFindings, async ({ params, query, person }) =>
    reply(await listFindings(context, person, params.process, query)),
  );
}
