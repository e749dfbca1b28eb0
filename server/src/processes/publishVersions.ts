import type { InputProblem } from '@ladder/contract';
import {
  type Adoption,
  type Catalogue,
  type ChangedRequirements,
  catalogueOf,
  changedRequirements,
  type Problem as DesignProblem,
  type Field,
  fieldsAsked,
  formulaFields,
  type ProcessDocument,
  type ProcessId,
  type Publish,
  type PublishReach,
  publishReach,
  readDocument,
  type Setting,
  type StageId,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { ProcessVersionEntity, type ProcessVersionRow } from '../db/entities/processVersion.ts';
import { inOrder } from '../db/inOrder.ts';
import { type DesignInput, loadSurroundings } from '../designCheck/designInput.ts';
import { presentCatalogue } from '../facts/catalogue.ts';
import { notFound } from '../problems/problem.ts';
import { loadSetting } from '../setting/repository/settings.ts';
import { openDealsIn } from './repository/openDeals.ts';
import { otherStages, type StageToLeave, versionsToComeFrom } from './repository/processes.ts';

/* What a publish and its preview both go by: the draft beside the live version, and what the one changes for deals of the other. */

export interface Versions {
  readonly draft: ProcessVersionRow;
  readonly live: ProcessVersionRow | null;
  readonly catalogue: Catalogue;
  readonly problems: readonly DesignProblem[];
}

/** What keeps a design from being published: worked out in a thread of its own, or in the one that does long work. */
export type DesignJudge = (design: DesignInput) => readonly DesignProblem[] | Promise<readonly DesignProblem[]>;

export async function loadVersions(
  tx: EntityManager,
  processId: ProcessId,
  purpose: 'read' | 'publish',
  check: DesignJudge,
  now: number,
): Promise<Versions> {
  const versions = tx.getRepository(ProcessVersionEntity);
  const [draft, live, surroundings] = await inOrder(
    versions.findOne({
      where: { processId, state: 'draft' },
      ...(purpose === 'read' ? {} : { lock: { mode: 'pessimistic_write' as const } }),
    }),
    versions.findOneBy({ processId, state: 'live' }),
    loadSurroundings(tx, now),
  );
  if (!draft) throw notFound('draft');
  const problems = await check({ document: draft.document, surroundings });
  return { draft, live, catalogue: catalogueOf(surroundings.fields), problems };
}

/**
 * The stages in which open deals stand, on whatever version, that the document does not have: what the preview asks and
 * what publishing requires. Each is called what the newest version that has it calls it.
 */
export async function stagesToLeave(
  tx: EntityManager,
  processId: ProcessId,
  document: ProcessDocument,
): Promise<readonly StageToLeave[]> {
  const others = await otherStages(
    tx,
    processId,
    document.stages.map(({ id }) => id),
  );
  // Mostly there are none, and no deal is looked at.
  if (others.length === 0) return [];
  const names = new Map(others.map(({ id, name }) => [id, name]));
  const left = await openDealsIn(tx, processId, [...names.keys()]);
  return left.map(({ id, openDeals }) => ({ id, openDeals, name: names.get(id) ?? id }));
}

/** How open deals are moved over. */
export type Plan = Pick<Adoption, 'transfers' | 'graceUntil'>;

/** What the publish changes for deals of each version that open ones follow: worked out once a publish. */
export async function publishOf(
  tx: EntityManager,
  processId: ProcessId,
  draft: ProcessVersionRow,
  graceUntil: number,
): Promise<Publish> {
  const rows = await versionsToComeFrom(tx, processId, draft.id);
  const changed = rows.map(
    ({ id, document }) => [id, changedRequirements(readDocument(document), draft.document)] as const,
  );
  return { version: draft.id, graceUntil, changed: Object.fromEntries(changed.filter(([, map]) => hasAny(map))) };
}

const hasAny = (changed: ChangedRequirements): boolean => Object.keys(changed).length > 0;

/** The draft's setting as it will be once it is published. */
export async function draftSetting(tx: EntityManager, draft: ProcessVersionRow, publish: Publish): Promise<Setting> {
  const own = await loadSetting(tx, draft.id);
  const others = own.publishes.filter(({ version }) => version !== draft.id);
  return { ...own, catalogue: await presentCatalogue(tx), publishes: [...others, publish] };
}

export const transferProblem = (stage: StageId): InputProblem => ({
  pointer: `/transfers/${stage}`,
  detail: 'Open deals are in this stage, which the new version does not have. Say where they go.',
});

/** How far the publish of a version over the one before it reaches; the first one reaches nobody. */
export const reachOf = (
  before: ProcessVersionRow | null,
  after: Pick<ProcessVersionRow, 'document' | 'fields'>,
): PublishReach => (before ? publishReach(before, after) : { reach: 'none' });

/** The definitions a version is published with: of the administrator's fields that it lists or asks for (S30). */
export const usedFields = (document: ProcessDocument, catalogue: Catalogue): readonly Field[] =>
  ownFields([...document.sections.flatMap(({ fields }) => fields), ...fieldsAsked(document)], catalogue);

/** The administrator's fields among these, with what their formulas are made of. */
export function ownFields(named: readonly string[], catalogue: Catalogue): readonly Field[] {
  const ids = new Set(named);
  // A set takes what is added while it is gone through: a calculated number may read another.
  for (const id of ids) for (const part of partsOf(catalogue.get(id))) ids.add(part);
  return [...catalogue.values()].filter(({ id, builtIn }) => ids.has(id) && !builtIn);
}

const partsOf = (field: Field | undefined): readonly string[] => (field?.formula ? formulaFields(field.formula) : []);
