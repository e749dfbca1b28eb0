import type { Choice } from '../../facts/field.ts';
import type { Condition } from '../criterion.ts';

const MOST_LISTS = 4_096;

/**
 * Lists of choices that stand for all others. Choices that the conditions name always together are alike: of each such kind
 * none, one or all are chosen, which is all that conditions can tell. Null where these are too many.
 */
export function listsFor(
  conditions: readonly Condition[],
  choices: readonly Choice[],
): readonly (readonly string[])[] | null {
  const named = conditions.flatMap((condition) => ('values' in condition ? [new Set(condition.values)] : []));
  const alike = new Map<string, string[]>();
  for (const { id } of choices) {
    const where = named.map((values) => (values.has(id) ? 'in' : 'out')).join(' ');
    alike.set(where, [...(alike.get(where) ?? []), id]);
  }
  let lists: readonly (readonly string[])[] = [[]];
  for (const ids of alike.values()) {
    const ways = ids.length > 1 ? [[], ids.slice(0, 1), ids] : [[], ids];
    if (lists.length * ways.length > MOST_LISTS) return null;
    lists = lists.flatMap((list) => ways.map((way) => [...list, ...way]));
  }
  return lists.filter((list) => list.length > 0);
}
