import { recordErasure } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import type { Context } from '../context.ts';
import { sql } from '../db/sql.ts';
import type { Reply } from '../http/reply.ts';
import { notFound, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { presentChange } from './presentChange.ts';
import { runCommand } from './runCommand.ts';

/** Erases the free text of a journal entry: that it was is journalled first, then the database's own function takes it away. */
export async function eraseText(
  context: Context,
  tx: EntityManager,
  person: Person,
  id: string,
  seq: number,
): Promise<Reply> {
  const change = await runCommand(context, tx, person, id, ({ deal, setting, moment }) =>
    recordErasure(deal, setting, seq, moment),
  );
  const [entry] = await sql<{ text: string | null; has_text: boolean }>(
    tx,
    `select t.text, j.text_id is not null as has_text from journal j left join journal_texts t on t.id = j.text_id where j.deal_id = :id and j.seq = :seq`,
    { id, seq },
  );
  if (!entry?.has_text) throw notFound('text in the journal');
  if (entry.text === null) throw new Problem(409, 'This text is erased already.');
  await sql(tx, `select erase_journal_text(:id::uuid, :seq::integer)`, { id, seq });
  return { body: await presentChange(context, tx, person, change) };
}
