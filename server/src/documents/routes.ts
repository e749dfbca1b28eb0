import { endpoints } from '@ladder/contract';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { command } from '../http/command.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { setterOf } from '../settingsLog/settingsLog.ts';
import { addKind, changeKind, listKinds } from './kinds.ts';
import { attach, remove, send } from './service.ts';

export function documentRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.listDocumentKinds, async ({ query }) => reply(await listKinds(context, query)));
  register(router, context, endpoints.addDocumentKind, (input) =>
    command(context, input, async (tx) => reply(await addKind(tx, input.body.name, setterOf(context, input.person)))),
  );
  register(router, context, endpoints.changeDocumentKind, (input) =>
    command(context, input, async (tx) =>
      reply(await changeKind(tx, input.params.kind, input.body, setterOf(context, input.person))),
    ),
  );
  register(router, context, endpoints.attachDocument, ({ params, query, person, request }) =>
    attach(context, person, request, params.deal, query),
  );
  register(router, context, endpoints.getDocument, async ({ params, person, response }) => {
    await send(context, person, params.deal, params.document, response);
    return {};
  });
  register(router, context, endpoints.removeDocument, (input) =>
    command(context, input, (tx) => remove(context, tx, input.person, input.params.deal, input.params.document)),
  );
}
