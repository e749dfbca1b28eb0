import fc from 'fast-check';
import { expect, it } from 'vitest';
import { tickItem } from '../commands/tick.ts';
import type { Operand, Term } from '../criteria/criterion.ts';
import type { Deal } from '../deals/deal.ts';
import { dealFacts } from '../deals/dealFacts.ts';
import { itemsOf } from '../gate/item.ts';
import type { Requirement } from '../requirements/kinds.ts';
import { at, DAY, dealIn, documentOf, must, NOW, needs, settingOf, stage } from '../testing/builders.ts';
import { openPeriods } from './periods.ts';
import { requirementSieve } from './requirementSieve.ts';

const compares = (id: string, kind: 'at_most' | 'more', left: Operand, right: Term): Requirement => ({
  id,
  level: 'hold',
  binds: 'must_stay',
  kind: 'criterion',
  criterion: { kind, left, right },
});
const survey = { of: 'field', field: 'survey' } as const;
const tick = { id: 'tick', text: 'Called', need: 'must', level: 'hold', afterReturn: 'again' } as const;
const setting = settingOf(
  documentOf([
    stage('a', {
      enter: [
        needs('crop', 'crop'),
        needs('herbs', 'notes', {
          appliesWhen: { kind: 'one_of', left: { of: 'field', field: 'crop' }, values: ['herbs'] },
        }),
        // Met until the day of the survey is a week ahead no longer; met from the day before it.
        compares('soon', 'at_most', { of: 'field', field: 'close_date' }, { of: 'today', plus: 7 }),
        compares('early', 'more', survey, { of: 'today', plus: -1 }),
        compares('quick', 'at_most', { of: 'journey', fact: 'days_in_stage' }, { of: 'value', value: 3 }),
      ],
      checklist: [tick],
    }),
  ]),
);
const asked = itemsOf(setting.document);

const day = fc.integer({ min: -20, max: 20 }).map((days) => new Date(NOW + days * DAY).toISOString().slice(0, 10));
const deals: fc.Arbitrary<Deal> = fc
  .record({
    values: fc.record({
      crop: fc.option(fc.constantFrom('tomatoes', 'herbs')),
      notes: fc.option(fc.constant('Said')),
      close_date: fc.option(day),
      survey: fc.option(day),
    }),
    ticked: fc.boolean(),
  })
  .map(({ values, ticked }) => {
    const begun = dealIn(setting, values);
    return ticked ? must(tickItem(begun, setting, 'tick', 'ticked', at(NOW))).deal : begun;
  });

/** A deal of which nothing but the named parts can be read. */
function withParts(deal: Deal, names: readonly string[]): Deal {
  const kept: Readonly<Record<string, readonly (keyof Deal)[]>> = {
    values: ['values', 'partyValues', 'currency', 'closeDateMoves'],
    activities: ['lastActivityAt', 'activityCounts'],
    visits: ['visits'],
    ticks: ['ticks'],
    waivers: ['waivers'],
  };
  const all = [...new Set(names.flatMap((name) => kept[name] ?? []))];
  return Object.fromEntries(all.map((property) => [property, deal[property]])) as unknown as Deal;
}

it('catches a deal exactly where one of the requirements is in its way, now or by the clock, by the parts that it names', () => {
  fc.assert(
    fc.property(deals, fc.subarray([...asked.keys(), 'gone']), fc.integer({ min: 1, max: 5 }), (deal, ids, days) => {
      const sieve = requirementSieve(ids, setting);
      const then = NOW + days * DAY;
      const facts = dealFacts(deal, setting, then);
      const items = ids.flatMap((id) => asked.get(id) ?? []);
      const isInTheWay = items.some((item) => openPeriods(item, facts, setting.catalogue).length > 0);
      expect(sieve.catches(withParts(deal, sieve.parts), then)).toBe(isInTheWay);
    }),
  );
});

it('reads nothing for what the version does not ask', () => {
  expect(requirementSieve(['gone'], setting).parts).toEqual([]);
  expect(requirementSieve(['tick'], setting).parts).toEqual(['visits', 'ticks']);
});
