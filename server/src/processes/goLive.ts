import { type Moment, type Publish, personActor, personOf, type StageId } from '@ladder/core';
import { type EntityManager, In, IsNull } from 'typeorm';
import { tellPublish } from '../bell/repository.ts';
import { FieldEntity } from '../db/entities/field.ts';
import { ProcessVersionEntity, type ProcessVersionRow } from '../db/entities/processVersion.ts';
import { inOrder } from '../db/inOrder.ts';
import { at } from '../db/sql.ts';
import { awaitWriters, lockProcess } from '../setting/repository/lockProcess.ts';
import { touchProcess } from '../setting/repository/settings.ts';
import { type Judged, judgedBy } from './judgeAhead.ts';
import { graceEnd, type PublishInHand, type PublishRequest, publishable } from './publishable.ts';
import { type DesignJudge, publishOf, stagesToLeave, usedFields, type Versions } from './publishVersions.ts';
import { markAnew, markLeft, newestSince } from './repository/judgedDeals.ts';
import { letStay } from './repository/openDeals.ts';
import { recordPublish } from './repository/processes.ts';

/**
 * The short step in which the version goes live, while nobody else writes deals of the process: right after whatever was done
 * with those that were judged ahead. Nothing happens where they were judged by something that is otherwise now. It is as late as
 * the newest change of a deal; where none is to be judged anew, that is looked for `beside` it.
 */
export async function goLive(
  tx: EntityManager,
  { subject: processId, request, by, now, bind }: PublishInHand,
  check: DesignJudge,
  judged: Judged | null,
  beside: EntityManager,
): Promise<void> {
  await inOrder(lockProcess(tx, processId, 'publish'), awaitWriters(tx, processId));
  const [versions, newest] = await inOrder(
    publishable(tx, processId, request, 'publish', check, now),
    judged?.reaches === false ? newestSince(beside, now) : Promise.resolve(now),
  );
  const { draft, live, catalogue } = versions;
  if (judged !== null && judged.by !== (await judgedBy(tx, draft, catalogue))) return;
  await bind(tx);
  const instant = Math.max(now, judged?.reaches ? await markAnew(tx, processId, draft.id) : newest);
  const facts = await publishOf(tx, processId, draft, graceEnd(now, request));
  await makeLive(tx, versions, request, facts, { by: personActor(by), happenedAt: instant, recordedAt: instant });
  await tellPublish(tx, { process: processId, version: draft.id, by, now: instant });
  if (live) await keepBehind(tx, draft, live, request, at(instant));
  if (judged !== null) await markLeft(tx, processId, draft.id);
}

/** Deals that stay on the version before; those among them that move over are in a stage that is gone, until they have left it. */
async function keepBehind(
  tx: EntityManager,
  draft: ProcessVersionRow,
  live: ProcessVersionRow,
  { deals }: PublishRequest,
  since: Date,
): Promise<void> {
  const gone = (await stagesToLeave(tx, draft.processId, draft.document)).map(({ id }) => id);
  if (deals === 'stay') await letStay(tx, draft.processId, live.id, since, 'all');
  else if (gone.length > 0) await letStay(tx, draft.processId, live.id, since, gone as StageId[]);
}

const NOTHING = Promise.resolve(null);

async function makeLive(
  tx: EntityManager,
  { draft, live, catalogue }: Versions,
  request: PublishRequest,
  { graceUntil, changed }: Publish,
  moment: Moment,
): Promise<void> {
  const fields = usedFields(draft.document, catalogue);
  const versions = tx.getRepository(ProcessVersionEntity);
  const publishedAt = at(moment.happenedAt);
  const givesGrace = request.deals === 'move_over' && Object.keys(changed).length > 0;
  const grace = givesGrace ? { until: graceUntil, changed } : null;
  await inOrder(
    // The versions before it are judged by this publish's days of grace too.
    touchProcess(tx, draft.processId),
    live ? versions.update({ id: live.id }, { state: 'superseded', supersededAt: publishedAt }) : NOTHING,
    versions.update(
      { id: draft.id },
      {
        state: 'live',
        fields,
        grace,
        publishedAt,
        publishedBy: personOf(moment.by),
        savedAt: publishedAt,
        note: request.note ?? null,
      },
    ),
    recordPublish(tx, draft.processId, moment, {
      version: draft.id,
      number: draft.number,
      before: live?.id ?? null,
      deals: request.deals,
      graceUntil: grace?.until ?? null,
    }),
    tx
      .getRepository(FieldEntity)
      .update({ id: In(fields.map(({ id }) => id)), firstUsedAt: IsNull() }, { firstUsedAt: publishedAt }),
  );
}
