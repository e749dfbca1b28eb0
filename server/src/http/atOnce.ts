import { type Heavy, MOST_AT_ONCE } from '@ladder/contract';
import { Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';

const underWay = new Map<string, number>();

/** Does heavy work for a person, unless they have as much of its kind under way as one may. */
export async function atOnce<T>(heavy: Heavy | undefined, person: Person, work: () => Promise<T>): Promise<T> {
  if (!heavy) return work();
  const key = `${heavy} ${person.id}`;
  const count = underWay.get(key) ?? 0;
  if (count >= MOST_AT_ONCE[heavy])
    throw new Problem(429, 'Too much of this is under way for you at once. Wait until some of it is done.', {}, 2);
  underWay.set(key, count + 1);
  try {
    return await work();
  } finally {
    const left = (underWay.get(key) ?? 1) - 1;
    if (left > 0) underWay.set(key, left);
    else underWay.delete(key);
  }
}
