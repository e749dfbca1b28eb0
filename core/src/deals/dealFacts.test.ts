import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { recordActivity } from '../commands/activity.ts';
import { tickItem } from '../commands/tick.ts';
import type { Criterion } from '../criteria/criterion.ts';
import { itemsOf } from '../gate/item.ts';
import type { GateFacts } from '../requirements/item.ts';
import { judgeItem } from '../requirements/judgeItem.ts';
import { kindNamed } from '../requirements/kindOf.ts';
import type { GateItem, Requirement } from '../requirements/kinds.ts';
import {
  at,
  CATALOGUE,
  DAY,
  dealIn,
  documentOf,
  must,
  NOW,
  needs,
  rate,
  settingOf,
  stage,
} from '../testing/builders.ts';
import type { Deal } from './deal.ts';
import { dealFacts, factsOfSnapshot, type Snapshot, snapshotOf } from './dealFacts.ts';
import { DEAL_PARTS, FACT_PARTS } from './parts.ts';

const asks = (id: string, criterion: Criterion): Requirement => ({
  id,
  kind: 'criterion',
  level: 'hold',
  binds: 'at_move',
  criterion,
});
const tick = { id: 'tick', text: 'Called', need: 'must', level: 'hold', afterReturn: 'again' } as const;
const cost = { of: 'field', field: 'cost' } as const;
const enter: readonly Requirement[] = [
  needs('crop', 'crop'),
  asks('rich', { kind: 'at_least', left: cost, right: { of: 'value', value: { minor: 50_000, currency: 'EUR' } } }),
  asks('quick', {
    kind: 'at_most',
    left: { of: 'journey', fact: 'days_in_stage' },
    right: { of: 'value', value: 3 },
  }),
  asks('busy', {
    kind: 'less',
    left: { of: 'journey', fact: 'days_since_activity' },
    right: { of: 'value', value: 2 },
  }),
  asks('credit', { kind: 'set', left: { of: 'field', field: 'credit' } }),
];
const setting = settingOf(documentOf([stage('a', { enter, checklist: [tick] }), stage('b')]), {
  rateOf: (from, to) => (from === 'GBP' && to === 'EUR' ? rate('1.15') : undefined),
});
const items = [...itemsOf(setting.document).values()];

const deals: fc.Arbitrary<Deal> = fc
  .record({
    price: fc.option(fc.record({ minor: fc.nat(100_000), currency: fc.constantFrom('GBP', 'EUR', 'USD') })),
    crop: fc.option(fc.constantFrom('tomatoes', 'herbs')),
    credit: fc.option(fc.boolean()),
    ticked: fc.boolean(),
    called: fc.boolean(),
  })
  .map(({ price, crop, credit, ticked, called }) => {
    const begun = { ...dealIn(setting, { cost: price, crop }), partyValues: { credit } };
    const worked = ticked ? must(tickItem(begun, setting, 'tick', 'ticked', at(NOW))).deal : begun;
    return called ? recordActivity(worked, setting, 'call', 'Rang.', at(NOW + DAY)).deal : worked;
  });
const later = fc.integer({ min: 0, max: 10 }).map((days) => NOW + DAY + days * DAY);
const judged = (item: GateItem, facts: GateFacts) => judgeItem(item, facts, CATALOGUE);
const stored = (snapshot: Snapshot): Snapshot => JSON.parse(JSON.stringify(snapshot)) as Snapshot;

function partNamed(name: string) {
  const part = FACT_PARTS.find((known) => known === name);
  if (!part) throw new Error(`No gate reads a part called ${name}`);
  return DEAL_PARTS[part];
}

describe('what a move keeps of a deal’s facts (S23)', () => {
  it('is judged later by any requirement as the deal was then, rates and all', () => {
    fc.assert(
      fc.property(deals, later, (deal, then) => {
        const kept = factsOfSnapshot(stored(snapshotOf(deal, setting, then)), then, setting);
        for (const item of items) expect(judged(item, kept)).toEqual(judged(item, dealFacts(deal, setting, then)));
      }),
    );
  });

  it('holds what each kind of requirement says that it needs: without the rest it is judged alike', () => {
    const empty = factsOfSnapshot(snapshotOf(dealIn(setting), setting, NOW), NOW, setting);
    fc.assert(
      fc.property(deals, later, (deal, then) => {
        const facts = dealFacts(deal, setting, then);
        for (const item of items) {
          const needed = kindNamed(item.kind)
            .needs(item)
            .map((name) => partNamed(name).facts(deal, setting, then));
          const { at: instant, today } = facts;
          const lean = Object.assign({}, empty, { at: instant, today }, ...needed) as GateFacts;
          expect(judged(item, lean)).toEqual(judged(item, facts));
        }
      }),
    );
  });

  it('was waived where it says so, and of the time before waivers were kept nothing was', () => {
    const snapshot = { ...snapshotOf(dealIn(setting), setting, NOW), waived: ['crop'] };
    expect(factsOfSnapshot(snapshot, NOW, setting).waived).toEqual(new Set(['crop']));
    const { waived: _none, ...before } = snapshot;
    expect(factsOfSnapshot(before, NOW, setting).waived.size).toBe(0);
  });
});
