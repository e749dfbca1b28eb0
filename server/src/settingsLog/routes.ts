import { endpoints } from '@ladder/contract';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { listSettingsLog } from './settingsLog.ts';

export function settingsLogRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.listSettingsLog, async ({ query }) =>
    reply(await listSettingsLog(context, query)),
  );
}
