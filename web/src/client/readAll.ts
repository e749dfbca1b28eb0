import type { FetchBaseQueryError } from '@reduxjs/toolkit/query/react';
import { queryString } from './api.ts';

interface Page<Item> {
  readonly items: readonly Item[];
  readonly next: string | null;
}
type Answer = { data: unknown; error?: undefined } | { error: FetchBaseQueryError; data?: undefined };
type Fetch = (url: string) => Answer | PromiseLike<Answer>;

const PAGE = 200;

/**
 * Every page of a list that is chosen from, or kept, as a whole: people, teams, the rows of a file. Where there are more than
 * `most`, it says by `next` that it has not all.
 */
export async function readAll<Item>(
  fetch: Fetch,
  path: string,
  query: Parameters<typeof queryString>[0] = {},
  most = Number.POSITIVE_INFINITY,
): Promise<{ data: Page<Item> } | { error: FetchBaseQueryError }> {
  const items: Item[] = [];
  let after: string | null = '';
  while (after !== null && items.length < most) {
    const answer = await fetch(`${path}${queryString({ ...query, limit: PAGE, after })}`);
    if (answer.error) return { error: answer.error };
    const page = answer.data as Page<Item>;
    items.push(...page.items);
    after = page.next;
  }
  return { data: { items, next: after } };
}
