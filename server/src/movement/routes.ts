import { endpoints } from '@ladder/contract';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { getEvidence } from './evidence.ts';
import { getMovement } from './service.ts';

export function movementRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.getMovement, async ({ params, query, person }) =>
    reply(await getMovement(context, person, params.process, query)),
  );
  register(router, context, endpoints.getDesignEvidence, async ({ params, person }) =>
    reply(await getEvidence(context, person, params.process)),
  );
}
