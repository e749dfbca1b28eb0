import type { Role } from '@ladder/contract';
import { kept } from '../db/keepingClient.ts';
import { at, type Connection, sql } from '../db/sql.ts';
import { HIDDEN_PROCESSES } from './hiddenProcesses.ts';

export interface SessionRow {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  readonly csrf: string;
  readonly used: Date;
  readonly teams: readonly string[];
  readonly standsInFor: readonly string[];
  readonly hiddenProcesses: readonly string[];
}

export interface Organisation {
  readonly name: string;
  readonly timeZone: string;
  /** The currency in which totals are told. */
  readonly currency: string;
  readonly demo: boolean;
}

const UNNAMED: Organisation = { name: 'Dusty Ladder', timeZone: 'Europe/London', currency: 'GBP', demo: false };

/** The organisation's settings; before it has any, plain ones. */
export async function organisation(connection: Connection): Promise<Organisation> {
  const [row] = await sql<Organisation>(
    connection,
    kept(`select name, time_zone as "timeZone", currency, demo from organisation`),
  );
  return row ?? UNNAMED;
}

/** The session of a token that has not expired and was not left unused too long. */
export async function sessionByToken(
  connection: Connection,
  hash: Buffer,
  now: number,
  idleMs: number,
): Promise<SessionRow | null> {
  const [row] = await sql<SessionRow>(
    connection,
    kept(`select p.id, p.name, p.role, s.csrf, s.used_at as used, array(select team_id::text from team_members where person_id = p.id order by 1) as teams,
       array(select a.person_id::text from absences a, organisation o where a.substitute_id = p.id and (:now at time zone o.time_zone)::date between a.from_day and a.to_day) as "standsInFor",
       ${HIDDEN_PROCESSES('p')} as "hiddenProcesses"
     from sessions s join people p on p.id = s.person_id
     where s.token_hash = :hash and s.expires_at > :now and s.used_at > :idle and p.active`),
    { hash, now: at(now), idle: at(now - idleMs) },
  );
  return row ?? null;
}

export const noteUse = (connection: Connection, hash: Buffer, now: number): Promise<unknown> =>
  sql(connection, `update sessions set used_at = :now where token_hash = :hash and used_at < :now`, {
    now: at(now),
    hash,
  });

/** Who may sign in, as the demo company's sign-ins are offered. */
export const peopleByRole = (
  connection: Connection,
): Promise<{ name: string; role: Role; title: string; email: string }[]> =>
  sql<{ name: string; role: Role; title: string; email: string }>(
    connection,
    `select name, role, title, email from people where active order by array_position(array['administrator', 'manager', 'seller', 'viewer'], role), name`,
  );

/** Counts a try for the mailbox and for the address that it comes from, and gives both counts. */
export async function countTries(
  connection: Connection,
  emailFold: string,
  address: string,
  now: number,
  windowMs: number,
): Promise<{ readonly forEmail: number; readonly forAddress: number }> {
  const [row] = await sql<{ for_email: number; for_address: number }>(
    connection,
    `with counted as (
       insert into sign_in_tries as t (scope, name, began_at, tries) values ('address', :address, :now, 1), ('email', :email, :now, 1)
       on conflict (scope, name) do update set
         tries = case when t.began_at > :since then t.tries + 1 else 1 end, began_at = case when t.began_at > :since then t.began_at else :now end
       returning scope, tries
     )
     select max(tries) filter (where scope = 'email') as for_email, max(tries) filter (where scope = 'address') as for_address from counted`,
    { email: emailFold, address, now: at(now), since: at(now - windowMs) },
  );
  return { forEmail: row?.for_email ?? 0, forAddress: row?.for_address ?? 0 };
}

/** The mailbox begins anew, and one try counts no longer against the address. */
export async function dropTries(connection: Connection, emailFold: string, address: string): Promise<void> {
  await sql(connection, `delete from sign_in_tries where scope = 'email' and name = :email`, { email: emailFold });
  await sql(
    connection,
    `update sign_in_tries set tries = greatest(0, tries - 1) where scope = 'address' and name = :address`,
    { address },
  );
}
