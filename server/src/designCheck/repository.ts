import type { DesignPerson, ProcessDocument, ProcessId } from '@ladder/core';
import { type Connection, sql } from '../db/sql.ts';

export const findDismissals = (
  connection: Connection,
  process: ProcessId,
): Promise<{ readonly remark: string; readonly reason: string; readonly by: string; readonly at: Date }[]> =>
  sql(
    connection,
    `select d.remark, d.reason, p.name as by, d.at from dismissals d join people p on p.id = d.by_id where d.process_id = :process order by d.at, d.remark`,
    { process },
  );

/** The draft of each process, or its live version where there is none. */
export const findDesigns = (
  connection: Connection,
): Promise<{ readonly process: ProcessId; readonly document: ProcessDocument }[]> =>
  sql(
    connection,
    `select distinct on (process_id) process_id as process, document from process_versions
     where state in ('draft', 'live') order by process_id, state`,
  );

/** Who may be given steps. */
export const findPeople = (connection: Connection): Promise<DesignPerson[]> =>
  sql(connection, 'select id, role from people where active order by id');
