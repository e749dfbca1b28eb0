import type { DealWith } from '../deals/deal.ts';
import { factsOfParts } from '../deals/dealFacts.ts';
import { type FactPartName, partsToRead } from '../deals/parts.ts';
import type { Setting } from '../deals/setting.ts';
import { itemsOf } from '../gate/item.ts';
import { factsAt, type GateFacts, isOpen } from '../requirements/item.ts';
import { needsOf, turnsOf } from '../requirements/itemParts.ts';
import { judgeItem } from '../requirements/judgeItem.ts';
import type { Instant } from '../time/day.ts';

/** Tells of a deal, by a few of its parts, whether a requirement may be in its way. */
export interface RequirementSieve {
  /** The parts that it reads. */
  readonly parts: readonly FactPartName[];
  /**
   * Whether one of the requirements is unmet or missing at the instant, or will be if nothing but the clock changes, no
   * matter whether the deal owes it or has it waived. Where none is, the deal has no findings of them.
   */
  catches(deal: DealWith<FactPartName>, at: Instant): boolean;
}

/**
 * A sieve for the requirements of these ids, as the setting's version asks them; those that it does not ask are in nobody's
 * way. A book is gone through with it in a fraction of the time that judging its deals takes.
 */
export function requirementSieve(ids: readonly string[], setting: Setting): RequirementSieve {
  const asked = itemsOf(setting.document);
  const items = ids.flatMap((id) => asked.get(id) ?? []);
  const parts = partsToRead(items.flatMap(needsOf));
  return {
    parts,
    catches: (deal, at) => {
      if (items.length === 0) return false;
      // Requirements read what they say that they need.
      const facts = {
        waived: new Set(),
        waivers: [],
        ticked: new Set(),
        ...factsOfParts(deal, parts, setting, at),
      } as GateFacts;
      return items.some((item) =>
        [at, ...turnsOf(item, facts)].some((instant) =>
          isOpen(judgeItem(item, factsAt(facts, instant), setting.catalogue).state),
        ),
      );
    },
  };
}
