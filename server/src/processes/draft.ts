import type { processes as contract, TypeOf } from '@ladder/contract';
import type { ProcessDocument, ProcessId, VersionId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { type Context, inCommand, inTransaction } from '../context.ts';
import { DraftPresenceEntity } from '../db/entities/draftPresence.ts';
import { ProcessVersionEntity, type ProcessVersionRow } from '../db/entities/processVersion.ts';
import { at } from '../db/sql.ts';
import { presentCatalogue } from '../facts/catalogue.ts';
import { newId } from '../ids.ts';
import { invalid, notFound, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { findPresent } from './repository/processes.ts';

type Draft = TypeOf<typeof contract.draft>;

export const insertDraft = (
  tx: EntityManager,
  processId: ProcessId,
  number: number,
  document: ProcessDocument,
  now: number,
): Promise<unknown> =>
  tx.getRepository(ProcessVersionEntity).insert({
    id: newId<VersionId>(now),
    processId,
    number,
    state: 'draft',
    document,
    fields: [],
    revision: 1,
    savedAt: at(now),
    publishedAt: null,
    publishedBy: null,
  });

const draftOf = (tx: EntityManager, processId: ProcessId): Promise<ProcessVersionRow | null> =>
  tx.getRepository(ProcessVersionEntity).findOneBy({ processId, state: 'draft' });

export async function getDraft(context: Context, process: ProcessId): Promise<Draft> {
  return inTransaction(context, async (tx) => {
    const row = await draftOf(tx, process);
    if (!row) throw notFound('draft');
    return presentDraft(tx, row);
  });
}

async function presentDraft(tx: EntityManager, row: ProcessVersionRow): Promise<Draft> {
  const catalogue = await presentCatalogue(tx);
  return {
    version: row.id,
    number: row.number,
    revision: row.revision,
    savedAt: row.savedAt.toISOString(),
    document: row.document,
    fields: [...catalogue.values()],
  };
}

/** Begins a draft as a copy of the live version, or of an earlier one; it keeps the name that the process has now. */
export async function beginDraft(
  { clock }: Context,
  tx: EntityManager,
  process: ProcessId,
  from?: number,
): Promise<Draft> {
  const versions = tx.getRepository(ProcessVersionEntity);
  const live = await versions.findOneBy({ processId: process, state: 'live' });
  if (!live) throw notFound('process with a live version');
  const taken = from === undefined ? live : await versions.findOneBy({ processId: process, number: from });
  if (await draftOf(tx, process)) throw new Problem(409, 'This process already has a draft.');
  if (!taken) throw notFound('version');
  await insertDraft(tx, process, live.number + 1, { ...taken.document, name: live.document.name }, clock.now());
  const row = await draftOf(tx, process);
  if (!row) throw notFound('draft');
  return presentDraft(tx, row);
}

/** Saves the draft if nobody saved it since; a draft may be unfinished, so it is checked when it is published. */
export async function saveDraft(
  context: Context,
  process: ProcessId,
  document: ProcessDocument,
  seen: number,
): Promise<Draft> {
  return inCommand(context, async (tx) => {
    const row = await draftOf(tx, process);
    if (!row)
      throw new Problem(
        404,
        'There is no draft any more: somebody published it or threw it away meanwhile. Begin one from the live version to go on.',
      );
    if (document.kind !== row.document.kind)
      throw invalid([{ pointer: '/document/kind', detail: 'A process keeps its kind.' }]);
    const saved = await tx.getRepository(ProcessVersionEntity).update(
      { id: row.id, state: 'draft', revision: seen },
      {
        document: { ...document, name: row.document.name },
        revision: () => 'revision + 1',
        savedAt: at(context.clock.now()),
      },
    );
    if (saved.affected === 0) throw staleDraft(row.revision);
    const after = await draftOf(tx, process);
    if (!after) throw notFound('draft');
    return presentDraft(tx, after);
  });
}

/** Someone else saved the draft: told with the revision it now has. */
export const staleDraft = (revision: number): Problem =>
  new Problem(412, 'Someone else saved this draft meanwhile. Load it again to see their changes.', {
    current: { revision },
  });

export async function dropDraft(context: Context, process: ProcessId): Promise<void> {
  await inCommand(context, async (tx) => {
    const row = await draftOf(tx, process);
    if (!row) throw notFound('draft');
    if (row.number === 1)
      throw new Problem(409, 'The first draft of a process cannot be thrown away: there would be nothing left of it.');
    await tx.getRepository(ProcessVersionEntity).delete({ id: row.id, state: 'draft' });
  });
}

/** Whoever was not heard of for longer has closed the page. */
const GONE_MS = 40_000;

/** Keeps that the person has the draft open, and says who else has. */
export const tellPresence = (
  context: Context,
  person: Person,
  process: ProcessId,
): Promise<TypeOf<typeof contract.presence>> =>
  inCommand(context, async (tx) => {
    const row = await draftOf(tx, process);
    if (!row) throw notFound('draft');
    const now = context.clock.now();
    await tx
      .getRepository(DraftPresenceEntity)
      .upsert({ processId: process, personId: person.id, seenAt: at(now) }, ['processId', 'personId']);
    const here = await findPresent(tx, process, at(now - GONE_MS));
    return { others: here.filter(({ id }) => id !== person.id), revision: row.revision };
  });
