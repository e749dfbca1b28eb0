import type { GateFacts } from '../requirements/item.ts';
import { type Day, type Instant, localDay, localDayNumber } from '../time/day.ts';
import type { DealWith } from './deal.ts';
import type { RecallSetting } from './parts/part.ts';
import { DEAL_PARTS, FACT_PARTS, type FactPartName, type FactsKept, type FactsRead } from './parts.ts';
import type { Setting } from './setting.ts';

/** All the deal's facts at a move, whether its gate asked for them or not (S23). */
export type Snapshot = FactsKept & { readonly today: Day };

type Judgeable = DealWith<FactPartName>;

/** Everything a gate can read about the deal at an instant. */
export const dealFacts = (deal: Judgeable, setting: Setting, at: Instant): GateFacts =>
  gathered<FactsRead, ClockFacts>(clockFacts(at, setting.zone), (name) => DEAL_PARTS[name].facts(deal, setting, at));

/** What some parts of it say alone: whoever reads them asks for nothing else. */
export const factsOfParts = (
  deal: Judgeable,
  names: readonly FactPartName[],
  setting: Setting,
  at: Instant,
): Partial<GateFacts> =>
  Object.assign(clockFacts(at, setting.zone), ...names.map((name) => DEAL_PARTS[name].facts(deal, setting, at)));

/** The facts as a move keeps them. */
export const snapshotOf = (deal: Judgeable, setting: Setting, at: Instant): Snapshot =>
  gathered<FactsKept, Pick<Snapshot, 'today'>>({ today: localDay(at, setting.zone) }, (name) =>
    DEAL_PARTS[name].keep(deal, setting, at),
  );

/** The facts of a move that was made or refused at an instant, as a gate read them then, and as any other gate may. */
export const factsOfSnapshot = (snapshot: Snapshot, at: Instant, around: RecallSetting): GateFacts =>
  gathered<FactsRead, ClockFacts>(clockFacts(at, around.zone), (name) => DEAL_PARTS[name].recall(snapshot, around));

type ClockFacts = Pick<GateFacts, 'at' | 'zone' | 'today'>;

const clockFacts = (at: Instant, zone: string): ClockFacts => ({ at, zone, today: localDayNumber(at, zone) });

/** What all parts that gates read say, and what is known beside them, as one. */
function gathered<All extends object, Beside extends object>(
  beside: Beside,
  say: (name: FactPartName) => object,
): All & Beside {
  for (const name of FACT_PARTS) Object.assign(beside, say(name));
  return beside as All & Beside;
}
