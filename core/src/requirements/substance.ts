import { canonicalText } from '../canonicalText.ts';
import { kindNamed } from './kindOf.ts';

/** What an item of a kind asks, of whom, at what level and for how long: all but its words. Equal where nothing of it has changed (S28). */
export function substanceOf(kind: string, item: object): string {
  const words = ['message', ...kindNamed(kind).wording];
  return canonicalText(Object.fromEntries(Object.entries(item).filter(([part]) => !words.includes(part))));
}
