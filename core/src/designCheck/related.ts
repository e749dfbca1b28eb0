import { conditionsOf, termsOf } from '../criteria/criterion.ts';
import type { Claim } from '../criteria/satisfy/claim.ts';
import { passed } from '../requirements/itemParts.ts';
import type { GateItem } from '../requirements/kinds.ts';

/**
 * The items in parts that read nothing in common, however many items lie between: what one part asks says nothing of what
 * another can be. Each part is in the order of the items.
 */
export function relatedParts(items: readonly GateItem[]): readonly (readonly GateItem[])[] {
  const above = new Map<string, string>();
  const topOf = (read: string): string => {
    let top = read;
    for (let next = above.get(top); next !== undefined; next = above.get(top)) top = next;
    if (top !== read) above.set(read, top);
    return top;
  };
  for (const item of items) {
    const [first = item.id, ...others] = readsOf(item);
    for (const other of others) if (topOf(other) !== topOf(first)) above.set(topOf(other), topOf(first));
  }
  const parts = new Map<string, GateItem[]>();
  for (const item of items) {
    const top = topOf(readsOf(item)[0] ?? item.id);
    const part = parts.get(top);
    if (part) part.push(item);
    else parts.set(top, [item]);
  }
  return [...parts.values()];
}

const known = new WeakMap<GateItem, readonly string[]>();

/** What an item reads, by names of its own; items never change. */
function readsOf(item: GateItem): readonly string[] {
  const reads = known.get(item) ?? [...new Set(readsOfClaim(passed(item)))];
  known.set(item, reads);
  return reads;
}

function readsOfClaim(claim: Claim): readonly string[] {
  if (claim.kind === 'deed') return [claim.deed];
  if (claim.kind !== 'truth') return claim.of.flatMap(readsOfClaim);
  const terms = conditionsOf(claim.of).flatMap(termsOf);
  return terms.flatMap((term) => (term.of === 'value' || term.of === 'today' ? [] : [Object.values(term).join(' ')]));
}
