import type { ProcessId, VersionId } from '@ladder/core';
import {
  BUILT_IN_FIELDS,
  catalogueOf,
  dealFacts,
  expectedFindings,
  MONDAY_TO_FRIDAY,
  NO_HOUSE_RULES,
  presentVisit,
  type Setting,
  standsAt,
  USUAL_TASK_FATES,
  USUAL_WAIVER_RIGHTS,
} from '@ladder/core';
import { describe, expect, it } from 'vitest';
import { FIELDS } from '../company/fields.ts';
import { NEW_BUILD } from '../company/newBuild.ts';
import { REASONS } from '../company/reasons.ts';
import { RETROFIT } from '../company/retrofit.ts';
import { exampleCsv } from '../exampleCsv.ts';
import { seededRandom } from '../random.ts';
import { generateBook } from './generateBook.ts';
import type { SimulatedProcess } from './simulateDeal.ts';

const NOW = Date.UTC(2026, 10, 24, 10);
const setting = (version: string, document: Setting['document']): Setting => ({
  version: version as VersionId,
  document,
  catalogue: catalogueOf([...BUILT_IN_FIELDS, ...FIELDS]),
  houseRules: NO_HOUSE_RULES,
  reasons: REASONS,
  calendar: MONDAY_TO_FRIDAY,
  zone: 'Europe/London',
  reportingCurrency: 'GBP',
  taskFates: USUAL_TASK_FATES,
  waiverRights: USUAL_WAIVER_RIGHTS,
  publishes: [],
  rateOf: () => undefined,
});
const processes: readonly [SimulatedProcess, SimulatedProcess] = [
  {
    id: 'a' as ProcessId,
    setting: setting('v1', NEW_BUILD),
    lossByStage: [0.2, 0.2, 0.2, 0.2, 0.25, 0.05],
    worth: 260_000,
    older: null,
  },
  {
    id: 'b' as ProcessId,
    setting: setting('v2', RETROFIT),
    lossByStage: [0.2, 0.2, 0.2, 0.2, 0.1],
    worth: 260_000,
    older: null,
  },
];
const bookOf = (seed: number, deals: number) => generateBook(seededRandom(seed), processes, [], deals, NOW);
const book = bookOf(1, 200);

describe('a generated book', () => {
  it('is the same for the same seed, and another for another', () => {
    const ids = (seed: number) =>
      bookOf(seed, 12).histories.map(({ deal }) => `${deal.id} ${deal.name} ${deal.revision}`);
    expect(ids(5)).toEqual(ids(5));
    expect(ids(5)).not.toEqual(ids(6));
  });

  it('has stays that follow each other without gap or overlap, and nothing after the present', () => {
    for (const { deal, records } of book.histories) {
      const stays = deal.visits.filter(({ takenBack }) => takenBack === 'no');
      for (const [place, stay] of stays.entries())
        if (place > 0) expect(stay.enteredAt).toBe(stays[place - 1]?.left?.at);
      expect(presentVisit(deal).left === null).toBe(deal.status.state === 'open');
      for (const record of records)
        if (record.kind === 'journal') expect(record.entry.happenedAt).toBeLessThanOrEqual(NOW);
    }
  });

  it('keeps findings that a judging of the whole book confirms', () => {
    for (const { deal } of book.histories) {
      const own = processes.find(({ id }) => id === deal.process)?.setting;
      if (!own) throw new Error('A deal of no process');
      const open = (findings: typeof deal.findings) =>
        findings
          .filter((finding) => standsAt(finding, NOW))
          .map(({ key }) => key)
          .sort();
      expect(open(deal.findings)).toEqual(open(expectedFindings(deal, own, NOW).findings));
      expect(dealFacts(deal, own, NOW).today).toBe(20_781);
    }
  });

  it('has the faults of real books: refusals, returns, skips, lost deals, empty fields', () => {
    const kinds = book.histories.flatMap(({ records }) =>
      records.map((record) => (record.kind === 'move' ? record.move.kind : record.kind)),
    );
    for (const kind of ['refusal', 'return', 'skip', 'won', 'lost', 'activity']) expect(kinds).toContain(kind);
  });

  /* Little's law: what is there on average = arrivals a day x days that one stays. Counted over the closed middle of the book. */
  it('roughly keeps Little’s law', () => {
    const [from, to] = [NOW - 500 * 86_400_000, NOW - 100 * 86_400_000];
    const lives = book.histories.map(
      ({ deal }) =>
        [deal.createdAt, deal.status.state === 'open' ? NOW : 'at' in deal.status ? deal.status.at : NOW] as const,
    );
    let there = 0;
    for (let at = from; at < to; at += 86_400_000)
      there += lives.filter(([begin, end]) => begin <= at && at < end).length;
    const arrived = lives.filter(([begin]) => begin >= from && begin < to);
    const days = (to - from) / 86_400_000;
    const stay = arrived.reduce((sum, [begin, end]) => sum + (end - begin) / 86_400_000, 0) / arrived.length;
    const ratio = there / days / ((arrived.length / days) * stay);
    expect(ratio).toBeGreaterThan(0.7);
    expect(ratio).toBeLessThan(1.3);
  });
});

it('the example file has 500 rows, quoted line breaks and some mistakes, the same each time', () => {
  const csv = exampleCsv(500, '2026-11-20');
  expect(csv).toBe(exampleCsv(500, '2026-11-20'));
  expect(csv.match(/HM-\d+/g)).toHaveLength(500);
  expect(csv).toMatch(/""the usual"" layout,\nwith/);
});
