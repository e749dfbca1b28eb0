import { endpoints } from '@ladder/contract';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { command } from '../http/command.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { setterOf } from '../settingsLog/settingsLog.ts';
import { addField, changeField, listFields } from './service.ts';

export function factRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.listFields, async ({ query }) => reply(await listFields(context, query)));
  register(router, context, endpoints.addField, (input) =>
    command(context, input, async (tx) => reply(await addField(tx, input.body, setterOf(context, input.person)))),
  );
  register(router, context, endpoints.changeField, async ({ person, params, body }) =>
    reply(await changeField(context, person, params.field, body)),
  );
}
