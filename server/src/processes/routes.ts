import { endpoints } from '@ladder/contract';
import type { Request, Router } from 'express';
import type { Context } from '../context.ts';
import { getLanes } from '../deals/lanes.ts';
import { command } from '../http/command.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { longCommand } from '../longWork/startWork.ts';
import { Problem } from '../problems/problem.ts';
import { beginDraft, dropDraft, getDraft, saveDraft, tellPresence } from './draft.ts';
import { busiestProcess, listProcesses } from './list.ts';
import { previewPublish } from './previewPublish.ts';
import { planProcessFile } from './processFiles.ts';
import { listProcessLog } from './processLog.ts';
import { draftToPublish, published } from './publish.ts';
import { addProcess, changeProcess, getProcess, getProcessFile, getVersion, houseRulesToChange } from './service.ts';

export function processRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.listProcesses, async ({ query, person }) =>
    reply(await listProcesses(context, person, query)),
  );
  register(router, context, endpoints.getFirstLanes, async ({ query, person }) =>
    reply(await getLanes(context, person, await busiestProcess(context, person), query)),
  );
  register(router, context, endpoints.listProcessLog, async ({ params, query }) =>
    reply(await listProcessLog(context, params.process, query)),
  );
  register(router, context, endpoints.addProcess, (input) =>
    command(context, input, async (tx) => reply(await addProcess(context, tx, input.person, input.body))),
  );
  register(router, context, endpoints.getProcess, async ({ params, person }) =>
    reply(await getProcess(context.dataSource, person, params.process)),
  );
  register(router, context, endpoints.changeProcess, async (input) => {
    const { params, body, person } = input;
    if (!body.houseRules) return reply(await changeProcess(context, person, params.process, body));
    return longCommand(
      context,
      input,
      (tx) => houseRulesToChange(tx, params.process, body),
      () => getProcess(context.dataSource, person, params.process),
    );
  });
  register(router, context, endpoints.getVersion, async ({ params, person }) =>
    reply(await getVersion(context, person, params.process, params.number)),
  );
  register(router, context, endpoints.getProcessFile, async ({ params, person }) =>
    reply(await getProcessFile(context, person, params.process, params.number), {
      'Content-Disposition': `attachment; filename="process-v${params.number}.json"`,
    }),
  );
  register(router, context, endpoints.planProcessFile, async ({ body }) =>
    reply(await planProcessFile(context, body.file)),
  );
  register(router, context, endpoints.getDraft, async ({ params }) => withTag(await getDraft(context, params.process)));
  register(router, context, endpoints.beginDraft, (input) =>
    command(context, input, async (tx) =>
      withTag(await beginDraft(context, tx, input.params.process, input.body.from)),
    ),
  );
  register(router, context, endpoints.saveDraft, async ({ params, body, request }) =>
    withTag(await saveDraft(context, params.process, body.document, seenRevision(request))),
  );
  register(router, context, endpoints.tellPresence, async ({ params, person }) =>
    reply(await tellPresence(context, person, params.process)),
  );
  register(router, context, endpoints.dropDraft, async ({ params }) => {
    await dropDraft(context, params.process);
    return {};
  });
  register(router, context, endpoints.previewPublish, async ({ params }) =>
    reply(await previewPublish(context, params.process)),
  );
  register(router, context, endpoints.publish, (input) => {
    const { params, body, request } = input;
    return longCommand(
      context,
      input,
      (tx) =>
        draftToPublish(
          tx,
          params.process,
          body,
          seenRevision(request),
          context.designChecks.problems,
          context.clock.now(),
        ),
      (work) => published(context, params.process, work),
    );
  });
}

const withTag = (draft: { readonly revision: number }) => reply(draft, { ETag: `"${draft.revision}"` });

const LARGEST_REVISION = 2 ** 31 - 1;

/** The revision in If-Match, which everyone who changes a draft must send. */
function seenRevision(request: Request): number {
  const header = request.get('If-Match');
  const match = /^"(\d+)"$/.exec(header ?? '');
  // A number that no revision can have is an ETag that does not match, whatever it was copied from.
  if (match) return Math.min(Number(match[1]), LARGEST_REVISION);
  const detail = 'Send If-Match with the draft’s ETag.';
  throw new Problem(header === undefined ? 428 : 400, detail, { errors: [{ pointer: '/header/If-Match', detail }] });
}
