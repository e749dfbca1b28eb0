import { endpoints } from '@ladder/contract';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { getImport, listImports, previewImport, sendBadRows, startImport, upload } from './service.ts';
import { startTakeBack } from './takeBack.ts';

export function importRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.listImports, async ({ query }) => reply(await listImports(context, query)));
  register(router, context, endpoints.uploadImport, async ({ query, person, request }) =>
    reply(await upload(context, person, request, query)),
  );
  register(router, context, endpoints.getImport, async ({ params }) => reply(await getImport(context, params.import)));
  register(router, context, endpoints.previewImport, async ({ params, body }) =>
    reply(await previewImport(context, params.import, body)),
  );
  register(router, context, endpoints.runImport, async ({ params, body }) =>
    reply(await startImport(context, params.import, body)),
  );
  register(router, context, endpoints.getBadRows, async ({ params, response }) => {
    await sendBadRows(context, params.import, response);
    return {};
  });
  register(router, context, endpoints.takeBackImport, async ({ params, person }) =>
    reply(await startTakeBack(context, person, params.import)),
  );
}
