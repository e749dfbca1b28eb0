import type { Context } from '../context.ts';
import { at, sql } from '../db/sql.ts';
import { Problem } from '../problems/problem.ts';

const WINDOW_MS = 15 * 60_000;
const MOST_FOR_EMAIL = 10;
const MOST_FOR_ADDRESS = 100;

/**
 * Counts a try for the mailbox and for the address it comes from, and refuses it where either has had too many. Counting
 * and looking are one step, so of many tries at once no more are let through than of as many one by one.
 */
export async function countTry(context: Context, emailFold: string, address: string, now: number): Promise<void> {
  const [row] = await sql<{ for_email: number; for_address: number }>(
    context.dataSource,
    `with counted as (
       insert into sign_in_tries as t (scope, name, began_at, tries) values ('address', :address, :now, 1), ('email', :email, :now, 1)
       on conflict (scope, name) do update set
         tries = case when t.began_at > :since then t.tries + 1 else 1 end, began_at = case when t.began_at > :since then t.began_at else :now end
       returning scope, tries
     )
     select max(tries) filter (where scope = 'email') as for_email, max(tries) filter (where scope = 'address') as for_address from counted`,
    { email: emailFold, address, now: at(now), since: at(now - WINDOW_MS) },
  );
  if ((row?.for_email ?? 0) > MOST_FOR_EMAIL || (row?.for_address ?? 0) > MOST_FOR_ADDRESS)
    throw new Problem(429, 'Too many tries. Wait a quarter of an hour, then try again.', {}, WINDOW_MS / 1_000);
}

/** The right password: the mailbox begins anew, and the try counts no longer against the address. */
export async function forgetTries(context: Context, emailFold: string, address: string): Promise<void> {
  await sql(context.dataSource, `delete from sign_in_tries where scope = 'email' and name = :email`, {
    email: emailFold,
  });
  await sql(
    context.dataSource,
    `update sign_in_tries set tries = greatest(0, tries - 1) where scope = 'address' and name = :address`,
    { address },
  );
}
