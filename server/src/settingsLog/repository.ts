import type { SettingLogged } from '@ladder/contract';
import { type Connection, sql } from '../db/sql.ts';

interface EntryRow {
  readonly id: string;
  readonly at: Date;
  readonly by: string;
  readonly what: SettingLogged;
  readonly subject: string;
  readonly before: Readonly<Record<string, string>> | null;
  readonly after: Readonly<Record<string, string>> | null;
}

export const findEntries = (connection: Connection, limit: number, before: number | undefined): Promise<EntryRow[]> =>
  sql<EntryRow>(
    connection,
    `select l.id::text, l.at, p.name as by, l.what, l.subject, l.before, l.after from settings_log l join people p on p.id = l.by_id
     where :before::bigint is null or l.id < :before order by l.id desc limit :limit`,
    { before, limit },
  );
