import type { processes as contract, TypeOf } from '@ladder/contract';
import {
  addDays,
  adoptVersion,
  type BulkWaiver,
  type Change,
  type Deal,
  type DealId,
  localDay,
  type Moment,
  type ProcessDocument,
  type ProcessId,
  type Publish,
  personActor,
  personOf,
  presentVisit,
  publishProblems,
  rejudgeDeal,
  type Setting,
  type StageId,
  stageOf,
  standsAt,
  USUAL_WAIVER_RIGHTS,
  type VersionId,
  waiveChanged,
} from '@ladder/core';
import { type EntityManager, In, IsNull } from 'typeorm';
import { tellPublish } from '../bell/repository.ts';
import type { Context } from '../context.ts';
import { FieldEntity } from '../db/entities/field.ts';
import { ProcessEntity } from '../db/entities/process.ts';
import { ProcessVersionEntity, type ProcessVersionRow } from '../db/entities/processVersion.ts';
import { at } from '../db/sql.ts';
import { loadDeals, lockDeals } from '../deals/repository/loadDeals.ts';
import { writeDeals } from '../deals/repository/writeDeals.ts';
import { designOf } from '../designCheck/designInput.ts';
import { inPairs } from '../longWork/inPairs.ts';
import type { WorkView } from '../longWork/repository.ts';
import type { AskedWork } from '../longWork/startWork.ts';
import type { WorkInHand, WorkKind } from '../longWork/workKind.ts';
import { invalid, notFound } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { organisation } from '../session/repository.ts';
import { awaitWriters, lockProcess } from '../setting/repository/lockProcess.ts';
import { loadSetting, loadSettings, touchProcess } from '../setting/repository/settings.ts';
import { versionsOf } from '../setting/repository/versions.ts';
import { staleDraft } from './draft.ts';
import {
  type DesignJudge,
  loadVersions,
  type Plan,
  publishOf,
  reachOf,
  stagesToLeave,
  transferProblem,
  usedFields,
  type Versions,
} from './publishVersions.ts';
import { reachedDeals } from './reachedDeals.ts';
import { countOpenDeals, letStay, recordPublish } from './repository.ts';

type Request = TypeOf<typeof contract.publish>;

/** What is asked of a publish, of which draft, and which revision of it was seen. */
interface AskedPublish extends Request {
  readonly version: VersionId;
  readonly seen: number;
}

/** What makes the draft live, unless it was changed meanwhile or cannot be published as it stands. */
export async function draftToPublish(
  tx: EntityManager,
  processId: ProcessId,
  request: Request,
  seen: number,
  check: DesignJudge,
  now: number,
): Promise<AskedWork> {
  const { draft } = await publishable(tx, processId, { ...request, seen }, 'read', check, now);
  await requireWaiver(tx, processId, request, now);
  const { open } = await countOpenDeals(tx, processId);
  return {
    kind: 'publish',
    subject: processId,
    request: { ...request, version: draft.id, seen } satisfies AskedPublish,
    total: request.deals === 'move_over' ? open : 0,
  };
}

/** The versions of a publish; throws where the draft is another than was seen, or something is wrong with it. */
async function publishable(
  tx: EntityManager,
  processId: ProcessId,
  { seen, ...request }: Omit<AskedPublish, 'version'>,
  purpose: 'read' | 'publish',
  check: DesignJudge,
  now: number,
): Promise<Versions> {
  const versions = await loadVersions(tx, processId, purpose, check, now);
  const { draft, problems } = versions;
  if (draft.revision !== seen) throw staleDraft(draft.revision);
  if (problems.length > 0) throw invalid(problems, 422);
  await requireTransfers(tx, processId, draft.document, request);
  return versions;
}

/**
 * Makes the draft live and immutable, at once; open deals follow it or stay on their version, as asked. Those that follow
 * and that it may bring something are then judged by it, some at a time, so that nobody waits: whoever works on one of them
 * before has it judged by the new version already. A server that goes in between leaves that to be gone on with.
 */
export const publishWork: WorkKind<AskedPublish, ProcessId> = { kind: 'publish', run: publish };

type Work = WorkInHand<AskedPublish, ProcessId>;

async function publish(tx: EntityManager, work: Work): Promise<number> {
  await work.apart((step) => goLive(step, work));
  if (work.request.deals === 'stay') return 0;
  await judgeFollowers(tx, work);
  const { open, staying } = await countOpenDeals(tx, work.subject);
  return open - staying;
}

/** The step in which the version goes live; nothing where it has. */
async function goLive(tx: EntityManager, { subject: processId, request, by, now, bind }: Work): Promise<void> {
  await lockProcess(tx, processId, 'publish');
  const known = await tx.getRepository(ProcessVersionEntity).findOneBy({ id: request.version });
  if (known && known.state !== 'draft') return;
  await awaitWriters(tx, processId);
  const versions = await publishable(tx, processId, request, 'publish', problemsHere, now);
  const moment = { by: personActor(by), happenedAt: now, recordedAt: now };
  const facts = await publishOf(tx, processId, versions.draft, graceEnd(now, request));
  await bind(tx);
  await makeLive(tx, versions, request, facts, moment);
  await tellPublish(tx, { process: processId, version: versions.draft.id, by, now });
  if (versions.live) await keepBehind(tx, versions.draft, versions.live, request, at(now));
}

/** Long work has a thread of its own. */
const problemsHere: DesignJudge = (design) => publishProblems(designOf(design));

const graceEnd = (publishedAt: number, { graceDays }: Request): number => publishedAt + graceDays * 86_400_000;

/** Deals that stay on the version before; those among them that move over are in a stage that is gone, until they have left it. */
async function keepBehind(
  tx: EntityManager,
  draft: ProcessVersionRow,
  live: ProcessVersionRow,
  { deals }: Request,
  since: Date,
): Promise<void> {
  const gone = (await stagesToLeave(tx, draft.processId, draft.document)).map(({ id }) => id);
  if (deals === 'stay') await letStay(tx, draft.processId, live.id, since, 'all');
  else if (gone.length > 0) await letStay(tx, draft.processId, live.id, since, gone as StageId[]);
}

/** Judges the deals that a publish may bring something, and takes along those that stayed on older versions. */
async function judgeFollowers(tx: EntityManager, { subject, request, by, apart, progress }: Work): Promise<void> {
  const versions = tx.getRepository(ProcessVersionEntity);
  const live = await versions.findOneByOrFail({ id: request.version });
  const publishedAt = live.publishedAt?.getTime() ?? 0;
  const before = await versions.findOne({
    where: { processId: subject, state: 'superseded' },
    order: { number: 'DESC' },
  });
  const to = await loadSetting(tx, live.id);
  const { open } = await countOpenDeals(tx, subject);
  const moment = { by: personActor(by), happenedAt: publishedAt, recordedAt: publishedAt };
  const plan = {
    transfers: request.transfers,
    graceUntil: graceEnd(publishedAt, request),
    followed: before?.id ?? null,
    ...(request.waive ? { waive: request.waive } : {}),
  };
  const reached = reachedDeals(tx, subject, reachOf(before, live), to, publishedAt);
  let told = 0;
  await inPairs(reached, async ({ ids, looked }) => {
    await apart((step) => judgeBatch(step, ids, live.id, plan, moment));
    told = Math.max(told, Math.min(looked, open));
    await progress(told, open);
  });
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
): Promise<void> {
  await lockDeals(tx, ids);
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

/** Who publishes grants them, so they are such as the process lets grant waivers, and no longer than it says. */
async function requireWaiver(tx: EntityManager, processId: ProcessId, { waive }: Request, now: number): Promise<void> {
  if (!waive) return;
  const row = await tx.getRepository(ProcessEntity).findOneBy({ id: processId });
  const { roles, mostDays } = { ...USUAL_WAIVER_RIGHTS, ...row?.waiverRights };
  if (!roles.includes('administrator'))
    throw invalid([{ pointer: '/waive', detail: 'Administrators grant no waivers in this process.' }], 422);
  const { timeZone } = await organisation(tx);
  const today = localDay(now, timeZone);
  if (waive.until < today) throw invalid([{ pointer: '/waive/until', detail: 'Choose today or a later day.' }], 422);
  if (waive.until > addDays(today, mostDays))
    throw invalid([{ pointer: '/waive/until', detail: `Waivers of this process last ${mostDays} days at most.` }], 422);
}

/** A publish that is done: the version that is live now, and how many deals moved over to it. */
export async function published(
  context: Context,
  person: Person,
  process: ProcessId,
  { deals }: WorkView,
): Promise<unknown> {
  const live = (await versionsOf(context.dataSource, person, [process])).find(({ state }) => state === 'live');
  if (!live) throw notFound('version');
  const { process: _process, ...version } = live;
  return { version, movedDeals: deals ?? 0 };
}

/** Deals that move over from a stage that is gone need another to go to. */
async function requireTransfers(
  tx: EntityManager,
  processId: ProcessId,
  document: ProcessDocument,
  request: Request,
): Promise<void> {
  if (request.deals === 'stay') return;
  const problems = (await stagesToLeave(tx, processId, document))
    .filter(({ id }) => !stageOf(document, request.transfers[id] ?? ''))
    .map(({ id }) => transferProblem(id));
  if (problems.length > 0) throw invalid(problems, 422);
}

async function makeLive(
  tx: EntityManager,
  { draft, live, catalogue }: Versions,
  request: Request,
  { graceUntil, changed }: Publish,
  moment: Moment,
): Promise<void> {
  const fields = usedFields(draft.document, catalogue);
  const versions = tx.getRepository(ProcessVersionEntity);
  const publishedAt = at(moment.happenedAt);
  const givesGrace = request.deals === 'move_over' && Object.keys(changed).length > 0;
  const grace = givesGrace ? { until: graceUntil, changed } : null;
  // The versions before it are judged by this publish's days of grace too.
  await touchProcess(tx, draft.processId);
  if (live) await versions.update({ id: live.id }, { state: 'superseded', supersededAt: publishedAt });
  await versions.update(
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
  );
  await recordPublish(tx, draft.processId, moment, {
    version: draft.id,
    number: draft.number,
    before: live?.id ?? null,
    deals: request.deals,
    graceUntil: grace?.until ?? null,
  });
  await tx
    .getRepository(FieldEntity)
    .update({ id: In(fields.map(({ id }) => id)), firstUsedAt: IsNull() }, { firstUsedAt: publishedAt });
}
