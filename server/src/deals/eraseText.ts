import type { DealId } from '@ladder/core';
import { recordErasure } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import type { Context } from '../context.ts';
import type { Reply } from '../http/reply.ts';
import { notFound, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { eraseDocument, eraseEntryText, eraseTaskTitle, findEntryText } from './repository/journal.ts';
import { forgetDeal } from './repository/keptDeals.ts';
import { runCommand } from './runCommand.ts';

/**
 * Erases the free text of a journal entry: that it was is journalled first, then the database's own function takes it away. Where
 * it is the name of a document, its bytes go with it; where it is a task's title, the task keeps its day alone.
 */
export async function eraseText(
  context: Context,
  tx: EntityManager,
  person: Person,
  id: DealId,
  seq: number,
): Promise<Reply> {
  const detail = await runCommand(context, tx, person, id, ({ deal, setting, moment }) =>
    recordErasure(deal, setting, seq, moment),
  );
  const entry = await findEntryText(tx, id, seq);
  if (!entry?.has_text) throw notFound('text in the journal');
  if (entry.text === null) throw new Problem(409, 'This text is erased already.');
  await eraseEntryText(tx, id, seq);
  const { document, task } = entry;
  forgetDeal(tx, id);
  if (task !== null) {
    await eraseTaskTitle(tx, id, task);
    const tasks = detail.tasks.map((one) => (one.seq === task ? { ...one, title: '' } : one));
    return { body: { ...detail, tasks } };
  }
  if (document === null) return { body: detail };
  await eraseDocument(tx, document);
  const documents = detail.documents.map((one) => (one.id === document ? { ...one, name: '' } : one));
  return { body: { ...detail, documents } };
}
