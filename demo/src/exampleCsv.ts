import { addDays, type Day } from '@ladder/core';
import { stringify } from 'csv-stringify/sync';
import { makeCustomers } from './company/customers.ts';
import { FIELDS } from './company/fields.ts';
import { NEW_BUILD } from './company/newBuild.ts';
import { SELLERS } from './company/people.ts';
import { between, chance, pick, type Random, seededRandom } from './random.ts';

const HEAD = [
  'Ref',
  'Deal',
  'Company',
  'Amount',
  'Stage',
  'Created',
  'In stage since',
  'Last contact',
  'Owner',
  'Crop',
  'Glazed area',
  'Planning',
  'Close date',
  'Source',
  'Remarks',
];
const SEED = 77;

/** Names of a field's choices. */
const choices = (id: string): readonly string[] =>
  FIELDS.find((field) => field.id === id)?.choices?.map(({ name }) => name) ?? [];

/** A list such as another program would export: `rows` deals, some of them with mistakes that an import finds. */
export function exampleCsv(rows: number, anchor: Day): string {
  const random = seededRandom(SEED);
  const customers = makeCustomers(random, Math.round(rows / 3), 0);
  const records = Array.from({ length: rows }, (_none, place) =>
    spoil(random, place, record(random, place, pick(random, customers).name, anchor)),
  );
  return stringify([HEAD, ...records], { record_delimiter: 'windows' });
}

function record(random: Random, place: number, customer: string, anchor: Day): string[] {
  const created = between(random, 8, 120);
  const entered = between(random, 1, Math.min(created, 40));
  const active = between(random, 0, entered);
  const day = (ago: number): string => addDays(anchor, -ago);
  return [
    `HM-${1000 + place}`,
    `${customer}, ${pick(random, ['north block', 'south block', 'new range', 'propagation house', 'block 2', 'block 7'])}`,
    customer,
    `£${(between(random, 60, 900) * 1000).toLocaleString('en-GB')}`,
    pick(random, NEW_BUILD.stages.slice(0, 5)).name,
    day(created),
    day(entered),
    day(active),
    pick(random, SELLERS).name,
    chance(random, 0.85) ? pick(random, choices('crop')) : '',
    chance(random, 0.8) ? String(between(random, 12, 900) * 10) : '',
    chance(random, 0.75) ? pick(random, choices('planning')) : '',
    chance(random, 0.7) ? addDays(anchor, between(random, -10, 120)) : '',
    chance(random, 0.8) ? pick(random, ['Trade show', 'Referral', 'Web enquiry', 'Advert']) : '',
    chance(random, 0.1) ? 'Asked for "the usual" layout,\nwith wider bays' : '',
  ];
}

const STAGE = 4;

/** Every so often a row goes wrong, as rows do. */
function spoil(random: Random, place: number, cells: string[]): string[] {
  if (place % 37 !== 11) return cells;
  const faults: readonly (readonly [number, string])[] = [
    [3, 'tbc'],
    [STAGE, 'Negotiation'],
    [5, '2026-02-30'],
    [8, 'R. Nobody'],
    [9, 'Mangoes'],
    [10, 'large'],
  ];
  const [column, text] = pick(random, faults);
  return cells.map((cell, at) => (at === column ? text : cell));
}
