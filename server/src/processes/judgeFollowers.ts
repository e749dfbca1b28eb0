import {
  adoptVersion,
  type BulkWaiver,
  type Change,
  type Deal,
  type DealId,
  type Moment,
  personActor,
  presentVisit,
  rejudgeDeal,
  type Setting,
  type StageId,
  standsAt,
  type VersionId,
  waiveChanged,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { ProcessVersionEntity } from '../db/entities/processVersion.ts';
import { writeJudged } from '../deals/repository/judgedRows.ts';
import { loadDeals, lockDeals } from '../deals/repository/loadDeals.ts';
import { writeDeals } from '../deals/repository/writeDeals.ts';
import { inPairs } from '../longWork/inPairs.ts';
import { loadSettings } from '../setting/repository/settings.ts';
import { graceEnd, type PublishInHand } from './publishable.ts';
import type { Plan } from './publishVersions.ts';
import {
  countJudged,
  dropJudged,
  endJudging,
  judgedAtOf,
  judgedBatches,
  takeJudged,
} from './repository/judgedDeals.ts';
import { BATCH } from './repository/openDeals.ts';

/** Rows that were judged ahead are written for so many deals at once: each is held for a moment only. */
const WRITTEN_AT_ONCE = 100;

/**
 * Writes what deals were judged ahead to be by the version that is live now, and judges anew those that were worked on
 * meanwhile or stayed on an older version; some at a time, so that nobody waits. A server that goes in between leaves the
 * rest to be gone on with, and whoever works on a deal before that has it judged by the new version already.
 */
export async function judgeFollowers(
  tx: EntityManager,
  { request, by, apart, progress }: PublishInHand,
): Promise<void> {
  const judgedAt = await judgedAtOf(tx, request.version);
  if (judgedAt === null) return;
  const versions = tx.getRepository(ProcessVersionEntity);
  const live = await versions.findOneByOrFail({ id: request.version });
  const publishedAt = live.publishedAt?.getTime() ?? judgedAt;
  const before = await versions.findOne({
    where: { processId: live.processId, state: 'superseded' },
    order: { number: 'DESC' },
  });
  const plan = {
    transfers: request.transfers,
    graceUntil: graceEnd(judgedAt, request),
    followed: before?.id ?? null,
    ...(request.waive ? { waive: request.waive } : {}),
  };
  const moment = { by: personActor(by), happenedAt: publishedAt, recordedAt: publishedAt };
  const total = await countJudged(tx, live.id);
  let done = 0;
  const inAStep = async (write: (step: EntityManager) => Promise<number>): Promise<void> => {
    const written = await apart(write);
    done += written;
    await progress(done, total);
  };
  await inPairs(judgedBatches(tx, live.id, 'judged', WRITTEN_AT_ONCE), (deals) =>
    inAStep((step) => writeBatch(step, idsOf(deals), live.id, judgedAt, publishedAt)),
  );
  await inPairs(judgedBatches(tx, live.id, 'anew', BATCH), (deals) =>
    inAStep((step) => judgeBatch(step, idsOf(deals), live.id, plan, moment)),
  );
  await apart((step) => endJudging(step, live.id));
}

const idsOf = (deals: readonly { readonly id: DealId }[]): readonly DealId[] => deals.map(({ id }) => id);

/** Writes what still holds; the rest is to be judged anew. Gives how many were written. */
async function writeBatch(
  tx: EntityManager,
  ids: readonly DealId[],
  version: VersionId,
  judgedAt: number,
  publishedAt: number,
): Promise<number> {
  await lockDeals(tx, ids);
  const holding = await takeJudged(tx, version, ids, publishedAt);
  await writeJudged(tx, holding, judgedAt, publishedAt);
  return holding.length;
}

interface BatchPlan extends Plan {
  readonly waive?: Omit<BulkWaiver, 'concerns'>;
  /** The version that was live before. */
  readonly followed: VersionId | null;
}

async function judgeBatch(
  tx: EntityManager,
  ids: readonly DealId[],
  target: VersionId,
  plan: BatchPlan,
  moment: Moment,
): Promise<number> {
  await lockDeals(tx, ids);
  await dropJudged(tx, target, ids);
  const deals = (await loadDeals(tx, ids)).filter(({ status }) => status.state === 'open');
  const settings = await loadSettings(tx, [target, ...deals.map(({ version }) => version)]);
  const to = settings.get(target);
  if (!to) throw new Error(`There is no version ${target}`);
  const writes = deals.flatMap((before) => {
    if (before.version === target) {
      const concerns = changedSince(to, plan.followed);
      return [{ before, change: waived(rejudgeDeal(before, to, moment), to, plan, concerns, moment) }];
    }
    const from = settings.get(before.version);
    const adopted = from && adoptVersion(before, { from, to, ...plan }, moment);
    // Moved on its older version into another stage that is gone, it stays there: nobody has said where it goes.
    if (!adopted?.ok) return [];
    const concerns =
      stageIn(before) === stageIn(adopted.value.deal) ? changedSince(to, before.version) : newFor(before, moment);
    return [{ before, change: waived(adopted.value, to, plan, concerns, moment) }];
  });
  await writeDeals(tx, writes, to.catalogue);
  return ids.length;
}

/** Requirements that the version asks otherwise than the one that was followed before. */
const changedSince =
  ({ publishes, version }: Setting, from: VersionId | null): BulkWaiver['concerns'] =>
  (requirement) =>
    from !== null && requirement in (publishes.find((one) => one.version === version)?.changed[from] ?? {});

/** Of a deal that goes to another stage, whatever it did not fail before. */
const newFor =
  (before: Deal, { recordedAt }: Moment): BulkWaiver['concerns'] =>
  (requirement) =>
    !before.findings.some(
      (finding) =>
        finding.kind === 'gate_changed' && finding.requirement === requirement && standsAt(finding, recordedAt),
    );

const stageIn = (deal: Deal): StageId => presentVisit(deal).stage;

/** What a deal fails only because of the publish is waived with it, where that is asked for. */
function waived(
  change: Change,
  to: Setting,
  { waive }: BatchPlan,
  concerns: BulkWaiver['concerns'],
  moment: Moment,
): Change {
  if (!waive) return change;
  const granted = waiveChanged(change.deal, to, { ...waive, concerns }, moment);
  return { deal: granted.deal, records: [...change.records, ...granted.records] };
}
