import { endpoints } from '@ladder/contract';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { startedCommand } from '../longWork/startWork.ts';
import { getImport, importToRun, listImports, previewImport, sendBadRows, upload } from './service.ts';
import { importToTakeBack } from './takeBack.ts';

export function importRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.listImports, async ({ query }) => reply(await listImports(context, query)));
  register(router, context, endpoints.uploadImport, async ({ query, person, request }) =>
    reply(await upload(context, person, request, query)),
  );
  register(router, context, endpoints.getImport, async ({ params }) => reply(await getImport(context, params.import)));
  register(router, context, endpoints.previewImport, async ({ params, body }) =>
    reply(await previewImport(context, params.import, body)),
  );
  register(router, context, endpoints.runImport, (input) => {
    const { params, body } = input;
    return startedCommand(
      context,
      input,
      (tx) => importToRun(tx, params.import, body),
      () => getImport(context, params.import),
    );
  });
  register(router, context, endpoints.getBadRows, async ({ params, response }) => {
    await sendBadRows(context, params.import, response);
    return {};
  });
  register(router, context, endpoints.takeBackImport, (input) => {
    const { params } = input;
    return startedCommand(
      context,
      input,
      (tx) => importToTakeBack(tx, params.import),
      () => getImport(context, params.import),
    );
  });
}
