import type { FetchBaseQueryError } from '@reduxjs/toolkit/query/react';
import { queryString } from './api.ts';

interface Page<Item> {
  readonly items: readonly Item[];
  readonly next: string | null;
}
type Answer = { data: unknown; error?: undefined } | { error: FetchBaseQueryError; data?: undefined };
type Fetch = (url: string) => Answer | PromiseLike<Answer>;

const PAGE = 200;

/** Every page of a list that is chosen from as a whole: people, teams, processes. */
export async function readAll<Item>(
  fetch: Fetch,
  path: string,
): Promise<{ data: Page<Item> } | { error: FetchBaseQueryError }> {
  const items: Item[] = [];
  for (let after: string | null = ''; after !== null; ) {
    const answer = await fetch(`${path}${queryString({ limit: PAGE, after })}`);
    if (answer.error) return { error: answer.error };
    const page = answer.data as Page<Item>;
    items.push(...page.items);
    after = page.next;
  }
  return { data: { items, next: null } };
}
