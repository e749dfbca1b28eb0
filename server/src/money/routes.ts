import { endpoints } from '@ladder/contract';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { listRates, setRate } from './service.ts';

export function rateRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.listRates, async ({ query }) => reply(await listRates(context, query)));
  register(router, context, endpoints.setRate, async ({ body, person }) => reply(await setRate(context, person, body)));
}
