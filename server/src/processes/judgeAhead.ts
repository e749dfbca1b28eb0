import {
  type Catalogue,
  type Deal,
  type DealId,
  type Moment,
  personActor,
  presentVisit,
  rejudgeDeal,
  type Setting,
  stageOf,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import type { ProcessVersionRow } from '../db/entities/processVersion.ts';
import type { Connection } from '../db/sql.ts';
import { judgedRows } from '../deals/repository/judgedRows.ts';
import { inPairs } from '../longWork/inPairs.ts';
import { lockProcess } from '../setting/repository/lockProcess.ts';
import { loadSetting, markOf } from '../setting/repository/settings.ts';
import { graceEnd, type PublishInHand, publishable } from './publishable.ts';
import { type DesignJudge, draftSetting, publishOf, reachOf, usedFields } from './publishVersions.ts';
import { loadToJudge, reachedDeals } from './reachedDeals.ts';
import { beginJudging, type JudgedDeal, keepJudged } from './repository/judgedDeals.ts';

export interface Judged {
  /** What deals were judged by, see `judgedBy`. */
  readonly by: string;
  /** Whether the draft can bring any deal anything. */
  readonly reaches: boolean;
}

/**
 * Judges the deals that follow the live version by the draft, as if it were live, and keeps what comes of that apart: nobody
 * waits, and nothing of it is so until the draft is live.
 */
export async function judgeAhead(
  tx: EntityManager,
  { subject: processId, request, by, now, apart, progress }: PublishInHand,
  check: DesignJudge,
): Promise<Judged> {
  // What goes on with the whole process is waited for before anything is judged, not only after it.
  await apart((step) => lockProcess(step, processId, 'publish'));
  const { draft, live, catalogue } = await publishable(tx, processId, request, 'read', check, now);
  // Looked at before anything is read, so that what changes meanwhile is noticed.
  const judged = { by: await judgedBy(tx, draft, catalogue), reaches: true };
  await apart((step) => beginJudging(step, draft.id, now));
  const reach = reachOf(live, { document: draft.document, fields: usedFields(draft.document, catalogue) });
  if (!live || reach.reach === 'none') return { ...judged, reaches: false };
  const from = await loadSetting(tx, live.id);
  const to = await draftSetting(tx, draft, await publishOf(tx, processId, draft, graceEnd(now, request)));
  const moment = { by: personActor(by), happenedAt: now, recordedAt: now };
  const judging = { live, draft, to, moment, waives: request.waive !== undefined };
  let told = 0;
  await inPairs(
    reachedDeals(tx, { process: processId, reach, from, to, now }, 'followers'),
    async ({ ids, looked }) => {
      await apart((step) => judgeBatch(step, ids, judging));
      told = Math.max(told, looked);
      await progress(told);
    },
  );
  return judged;
}

/** What deals are judged by beside their own facts, as a mark: where it is another, so may their findings be. */
export async function judgedBy(tx: Connection, draft: ProcessVersionRow, catalogue: Catalogue): Promise<string> {
  return `${await markOf(tx, draft.id)} ${JSON.stringify(usedFields(draft.document, catalogue))}`;
}

interface Judging {
  readonly live: ProcessVersionRow;
  readonly draft: ProcessVersionRow;
  /** What surrounds a deal once the draft is live. */
  readonly to: Setting;
  readonly moment: Moment;
  /** What deals fail is waived with the publish, which is recorded of each. */
  readonly waives: boolean;
}

/** Deals that stay on an older version, or in a stage that the draft lacks, go on from there once it is live. */
async function judgeBatch(tx: EntityManager, ids: readonly DealId[], judging: Judging): Promise<void> {
  const deals = await loadToJudge(tx, ids);
  const judged = deals
    .filter(({ status, version }) => status.state === 'open' && version === judging.live.id)
    .filter((deal) => stageOf(judging.draft.document, presentVisit(deal).stage))
    .flatMap((deal) => judgedDeal(following(deal, judging), judging));
  await keepJudged(tx, judging.draft.id, judged);
}

/** The deal as it would be read were the draft live. */
const following = (deal: Deal, { live, draft, moment }: Judging): Deal => ({
  ...deal,
  version: draft.id,
  revision: deal.revision + draft.number - live.number,
  versions: [...deal.versions, { version: draft.id, from: moment.recordedAt }],
});

/** What is kept of a deal; nothing where nothing comes of the draft. */
function judgedDeal(before: Deal, { to, moment, waives }: Judging): readonly JudgedDeal[] {
  const change = rejudgeDeal(before, to, moment);
  if (change.deal === before) return [];
  const rows = waives ? null : judgedRows({ before, change });
  return [{ deal: before.id, goodUntil: goodUntil(before, change.deal, moment.recordedAt), rows }];
}

/** Up to when the clock alone changes nothing. Of a deal that was written by a clock further on, it is good for that instant alone. */
function goodUntil(before: Deal, after: Deal, judgedAt: number): number {
  if (before.settledAt >= judgedAt) return judgedAt;
  const turns = [
    ...after.findings.flatMap(({ openedAt, closedAt }) => [openedAt, closedAt]),
    ...after.states.flatMap(({ from, to }) => [from, to]),
  ];
  return Math.min(...turns.filter((turn) => turn > judgedAt));
}
