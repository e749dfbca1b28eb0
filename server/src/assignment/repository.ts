import type { InTurn, ProcessId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { sql } from '../db/sql.ts';

/** A team's active sellers in their order, and who of them is away on a day. */
export const teamInTurn = async (tx: EntityManager, team: string, today: string): Promise<readonly InTurn[]> =>
  sql<InTurn>(
    tx,
    `select p.id, case when exists (select from absences a where a.person_id = p.id and :today::date between a.from_day and a.to_day) then 'away' else 'yes' end as here
     from people p join team_members m on m.person_id = p.id
     where m.team_id = :team and p.active and p.role = 'seller' order by p.name, p.id`,
    { team, today },
  );

/** To whom the last new deal of a process went, held until the transaction ends: of two at once the second waits. */
export async function lockTurn(tx: EntityManager, process: ProcessId): Promise<string | null> {
  await sql(tx, `insert into assignment_turns (process_id) values (:process) on conflict do nothing`, { process });
  const [row] = await sql<{ last: string | null }>(
    tx,
    `select person_id as last from assignment_turns where process_id = :process for update`,
    { process },
  );
  return row?.last ?? null;
}

export const noteTurn = (tx: EntityManager, process: ProcessId, person: string): Promise<unknown> =>
  sql(tx, `update assignment_turns set person_id = :person where process_id = :process`, { process, person });
