import type { Context } from '../context.ts';
import { Problem } from '../problems/problem.ts';
import { countTries, dropTries } from './repository.ts';

const WINDOW_MS = 15 * 60_000;
const MOST_FOR_EMAIL = 10;
const MOST_FOR_ADDRESS = 100;

/**
 * Counts a try for the mailbox and for the address it comes from, and refuses it where either has had too many. Counting
 * and looking are one step, so of many tries at once no more are let through than of as many one by one. Packages for this
 * go by the machine's clock, and the server's clock is passed in.
 */
export async function countTry(context: Context, emailFold: string, address: string, now: number): Promise<void> {
  const { forEmail, forAddress } = await countTries(context.dataSource, emailFold, address, now, WINDOW_MS);
  if (forEmail > MOST_FOR_EMAIL || forAddress > MOST_FOR_ADDRESS)
    throw new Problem(429, 'Too many tries. Wait a quarter of an hour, then try again.', {}, WINDOW_MS / 1_000);
}

/** The right password: the mailbox begins anew, and the try counts no longer against the address. */
export const forgetTries = (context: Context, emailFold: string, address: string): Promise<void> =>
  dropTries(context.dataSource, emailFold, address);
