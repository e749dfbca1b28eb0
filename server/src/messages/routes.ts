import { endpoints } from '@ladder/contract';
import type { Router } from 'express';
import { type Context, inCommand } from '../context.ts';
import { command } from '../http/command.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { setterOf } from '../settingsLog/settingsLog.ts';
import {
  addMessage,
  confirmMessage,
  draftMessage,
  dropMessage,
  listDealMessages,
  listMessages,
  messageFile,
} from './outbox.ts';
import { mailFails, setMailFails } from './repository.ts';
import { addTemplate, changeTemplate, listTemplates, removeTemplate } from './templates.ts';

export function messageRoutes(router: Router, context: Context): void {
  templateRoutes(router, context);
  register(router, context, endpoints.listMessages, async ({ query }) => reply(await listMessages(context, query)));
  register(router, context, endpoints.getStandIn, async () =>
    reply({ fails: await mailFails(context.dataSource), via: context.mailer.via }),
  );
  register(router, context, endpoints.setStandIn, async ({ body: { fails } }) => {
    await inCommand(context, (tx) => setMailFails(tx, fails));
    return reply({ fails, via: context.mailer.via });
  });
  register(router, context, endpoints.listDealMessages, async ({ person, params }) =>
    reply(await listDealMessages(context, person, params.deal)),
  );
  register(router, context, endpoints.draftMessage, async ({ person, params, query }) =>
    reply(await draftMessage(context, person, params.deal, query.template)),
  );
  register(router, context, endpoints.addMessage, (input) =>
    command(context, input, async (tx) =>
      reply(await addMessage(context, tx, input.person, input.params.deal, input.body)),
    ),
  );
  register(router, context, endpoints.confirmMessage, (input) =>
    command(context, input, async (tx) =>
      reply(await confirmMessage(context, tx, input.person, input.params, input.body)),
    ),
  );
  register(router, context, endpoints.dropMessage, (input) =>
    command(context, input, async (tx) => reply(await dropMessage(tx, input.person, input.params))),
  );
  register(router, context, endpoints.getMessageFile, async ({ person, params, response }) => {
    const file = await messageFile(context, person, params);
    response
      .status(200)
      .type('message/rfc822')
      .set('Content-Disposition', `attachment; filename="${params.message}.eml"`)
      .send(file);
    return {};
  });
}

function templateRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.listTemplates, async ({ query }) => reply(await listTemplates(context, query)));
  register(router, context, endpoints.addTemplate, (input) =>
    command(context, input, async (tx) => reply(await addTemplate(tx, input.body, setterOf(context, input.person)))),
  );
  register(router, context, endpoints.changeTemplate, (input) =>
    command(context, input, async (tx) =>
      reply(await changeTemplate(tx, input.params.template, input.body, setterOf(context, input.person))),
    ),
  );
  register(router, context, endpoints.removeTemplate, (input) =>
    command(context, input, async (tx) => {
      await removeTemplate(tx, input.params.template, setterOf(context, input.person));
      return reply(undefined);
    }),
  );
}
