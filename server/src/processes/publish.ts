import type { processes as contract, TypeOf } from '@ladder/contract';
import {
  type Adoption,
  adoptVersion,
  type Catalogue,
  checkDocument,
  type Deal,
  type Problem as DesignProblem,
  diffDocuments,
  type Field,
  fieldsAsked,
  formulaFields,
  type Moment,
  type ProcessDocument,
  presentVisit,
  type Setting,
  type Standing,
  stageOf,
  standingAt,
  touchesGates,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { type Context, inTransaction } from '../context.ts';
import { ProcessVersionEntity, type ProcessVersionRow } from '../db/entities/processVersion.ts';
import { asArray, at, sql } from '../db/sql.ts';
import { loadDeals, lockDeals } from '../deals/loadDeals.ts';
import { writeDeals } from '../deals/writeDeals.ts';
import { presentCatalogue } from '../facts/service.ts';
import { invalid, notFound } from '../http/problem.ts';
import type { Person } from '../people/person.ts';
import { openDealBatches } from './rejudgeProcess.ts';
import { staleDraft } from './service.ts';
import { loadSettings } from './settings.ts';
import { versionSummary } from './versions.ts';

type Preview = TypeOf<typeof contract.preview>;
type Request = TypeOf<typeof contract.publish>;

interface Versions {
  readonly draft: ProcessVersionRow;
  readonly live: ProcessVersionRow | null;
  readonly catalogue: Catalogue;
  readonly problems: readonly DesignProblem[];
}

async function loadVersions(tx: EntityManager, processId: string, seen?: number): Promise<Versions> {
  const versions = tx.getRepository(ProcessVersionEntity);
  const [draft, live, catalogue] = [
    await versions.findOne({
      where: { processId, state: 'draft' },
      ...(seen === undefined ? {} : { lock: { mode: 'pessimistic_write' as const } }),
    }),
    await versions.findOneBy({ processId, state: 'live' }),
    await presentCatalogue(tx),
  ];
  if (!draft) throw notFound('draft');
  return { draft, live, catalogue, problems: checkDocument(draft.document, catalogue) };
}

/** What publishing would change, and what that would do to the open deals if they were all moved over; nothing is written. */
export async function previewPublish(context: Context, processId: string): Promise<Preview> {
  const now = context.clock.now();
  return inTransaction(context, async (tx) => {
    const { draft, live, problems } = await loadVersions(tx, processId);
    const changes = diffDocuments(live?.document ?? null, draft.document);
    const removed = (live?.document.stages ?? []).filter(({ id }) => !stageOf(draft.document, id));
    const effect =
      problems.length > 0
        ? NO_EFFECT
        : await effectOn(
            tx,
            processId,
            draft,
            defaultTransfers(
              removed.map(({ id }) => id),
              draft.document,
            ),
            now,
          );
    return {
      number: draft.number,
      changes,
      touchesGates: touchesGates(changes),
      problems: problems.map((problem) => ({ ...problem })),
      ...effect.counts,
      openDeals: effect.openDeals,
      removedStages: removed.map(({ id, name }) => ({ id, name, openDeals: effect.inStage.get(id) ?? 0 })),
    };
  });
}

const NO_EFFECT = {
  openDeals: 0,
  counts: { newlyHeld: 0, newlyFlagged: 0, newlyClear: 0 },
  inStage: new Map<string, number>(),
};

/** A removed stage's deals go to the first stage unless the administrator says where. */
const defaultTransfers = (removed: readonly string[], document: ProcessDocument): Record<string, string> =>
  Object.fromEntries(removed.map((id) => [id, document.stages[0]?.id ?? '']));

async function effectOn(
  tx: EntityManager,
  processId: string,
  draft: ProcessVersionRow,
  transfers: Record<string, string>,
  now: number,
): Promise<typeof NO_EFFECT> {
  const counts = { newlyHeld: 0, newlyFlagged: 0, newlyClear: 0 };
  const inStage = new Map<string, number>();
  let openDeals = 0;
  const moment = { by: '', happenedAt: now, recordedAt: now };
  for await (const ids of openDealBatches(tx, processId)) {
    const deals = await loadDeals(tx, ids);
    const settings = await draftSettings(tx, draft, deals);
    for (const deal of deals) {
      const stage = presentVisit(deal).stage;
      inStage.set(stage, (inStage.get(stage) ?? 0) + 1);
      const after = adopt(deal, settings, draft.id, { transfers, graceUntil: now }, moment);
      countStanding(counts, standingAt(deal.findings, now), standingAt(after.deal.findings, now));
    }
    openDeals += deals.length;
  }
  return { openDeals, counts, inStage };
}

function countStanding(
  counts: { newlyHeld: number; newlyFlagged: number; newlyClear: number },
  before: Standing,
  after: Standing,
): void {
  if (before === after) return;
  if (after === 'held') counts.newlyHeld++;
  else if (after === 'flagged') counts.newlyFlagged++;
  else counts.newlyClear++;
}

/** Settings of the deals' own versions and of the draft, the draft with the present catalogue. */
async function draftSettings(
  tx: EntityManager,
  draft: ProcessVersionRow,
  deals: readonly Deal[],
): Promise<ReadonlyMap<string, Setting>> {
  const settings = new Map(await loadSettings(tx, [draft.id, ...deals.map(({ version }) => version)]));
  const own = settings.get(draft.id);
  if (own) settings.set(draft.id, { ...own, catalogue: await presentCatalogue(tx) });
  return settings;
}

function adopt(
  deal: Deal,
  settings: ReadonlyMap<string, Setting>,
  target: string,
  plan: Pick<Adoption, 'transfers' | 'graceUntil'>,
  moment: Moment,
): ReturnType<typeof adoptVersion> {
  const [from, to] = [settings.get(deal.version), settings.get(target)];
  if (!from || !to) throw new Error(`Deal ${deal.id} follows a version that is gone`);
  return adoptVersion(deal, { from, to, ...plan }, moment);
}

/** Makes the draft live and immutable; open deals move over or stay on their version, as asked. All or nothing. */
export async function publish(
  context: Context,
  person: Person,
  processId: string,
  request: Request,
  seen: number,
): Promise<unknown> {
  const now = context.clock.now();
  const moment = { by: person.id, happenedAt: now, recordedAt: now };
  return inTransaction(context, async (tx) => {
    const versions = await loadVersions(tx, processId, seen);
    const { draft, problems } = versions;
    if (draft.revision !== seen) throw staleDraft(draft.revision);
    if (problems.length > 0) throw invalid(problems, 422);
    await requireTransfers(tx, processId, draft.document, request);
    await makeLive(tx, versions, person, now);
    const movedDeals = request.deals === 'move_over' ? await moveOver(tx, processId, draft.id, request, moment) : 0;
    return { version: await versionSummary(tx, draft.id), movedDeals };
  });
}

/** Deals that move over from a stage that is gone need another to go to. */
async function requireTransfers(
  tx: EntityManager,
  processId: string,
  document: ProcessDocument,
  request: Request,
): Promise<void> {
  if (request.deals === 'stay') return;
  const rows = await sql<{ stage: string }>(
    tx,
    `select distinct stage_id as stage from deals where process_id = :processId and status = 'open'`,
    { processId },
  );
  const problems = rows
    .filter(({ stage }) => !stageOf(document, stage) && !stageOf(document, request.transfers[stage] ?? ''))
    .map(({ stage }) => ({
      pointer: `/transfers/${stage}`,
      detail: 'Open deals are in this stage, which the new version does not have. Say where they go.',
    }));
  if (problems.length > 0) throw invalid(problems, 422);
}

async function makeLive(
  tx: EntityManager,
  { draft, live, catalogue }: Versions,
  person: Person,
  now: number,
): Promise<void> {
  const fields = usedFields(draft.document, catalogue);
  const versions = tx.getRepository(ProcessVersionEntity);
  if (live) await versions.update({ id: live.id }, { state: 'superseded' });
  await versions.update(
    { id: draft.id },
    { state: 'live', fields, publishedAt: at(now), publishedBy: person.id, savedAt: at(now) },
  );
  await sql(tx, `update fields set first_used_at = :now where first_used_at is null and id = any(:ids::text[])`, {
    now: at(now),
    ids: asArray(fields.map(({ id }) => id)),
  });
}

/** The definitions a version is published with: of the administrator's fields that it lists or asks for (S30). */
function usedFields(document: ProcessDocument, catalogue: Catalogue): readonly Field[] {
  const ids = new Set([...document.sections.flatMap(({ fields }) => fields), ...fieldsAsked(document)]);
  // A set takes what is added while it is gone through: a calculated number may read another.
  for (const id of ids) for (const part of partsOf(catalogue.get(id))) ids.add(part);
  return [...catalogue.values()].filter(({ id, builtIn }) => ids.has(id) && !builtIn);
}

const partsOf = (field: Field | undefined): readonly string[] => (field?.formula ? formulaFields(field.formula) : []);

async function moveOver(
  tx: EntityManager,
  processId: string,
  target: string,
  request: Request,
  moment: Moment,
): Promise<number> {
  const plan = { transfers: request.transfers, graceUntil: moment.happenedAt + request.graceDays * 86_400_000 };
  let moved = 0;
  for await (const ids of openDealBatches(tx, processId)) {
    await lockDeals(tx, ids);
    const deals = (await loadDeals(tx, ids)).filter(({ version }) => version !== target);
    const settings = await loadSettings(tx, [target, ...deals.map(({ version }) => version)]);
    const writes = deals.map((before) => ({ before, change: adopt(before, settings, target, plan, moment) }));
    const catalogue = settings.get(target)?.catalogue;
    if (catalogue) await writeDeals(tx, writes, catalogue);
    moved += writes.length;
  }
  return moved;
}
