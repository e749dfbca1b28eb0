import type { FindingKind, StageId, Standing } from '@ladder/core';
import { type Connection, sql } from '../../db/sql.ts';
import { converted, REPORTING_RATES } from '../../setting/repository/rates.ts';
import { keptOfWhole, type OpenBook, ofStanding, PAST_TARGET } from './openBook.ts';

/*
 * Lanes, compliance and movement add up the open book by its shapes: the currency, stage, standing and kinds of findings of a
 * state in one text (`shape`). There are few shapes, and what is asked is told by them. What all open deals of a process add up
 * to PostgreSQL keeps in `open_sums` while their states are written; narrowed ones are gone through, by an index in this order.
 */

const kindsIn = (words: string): string => `array_remove(${words}, '')`;
const daysSince = (day: string): string => `greatest(0, :today::date - ${day})`;

/** By what open deals may be told apart: as the shape of a state has it, and as the column of kept sums does. */
const KEYS = {
  currency: { shape: `split_part(shape, ' ', 1)`, column: 'd.currency', kept: 'd.currency' },
  stage: { shape: `split_part(shape, ' ', 2)`, column: 'd.stage_id', kept: 'd.stage_id' },
  standing: { shape: `split_part(shape, ' ', 3)`, column: 'd.standing', kept: 'd.standing' },
  /** Of the findings that stand, each as often as it does. */
  kinds: {
    shape: kindsIn(`(string_to_array(shape, ' '))[4:]`),
    column: 'd.kinds',
    kept: kindsIn(`string_to_array(d.kinds, ' ')`),
  },
  /** Days in the stage. */
  age: { shape: daysSince('entered_day'), column: 'd.entered_day', kept: daysSince('d.entered_day') },
} as const;

interface Keyed {
  readonly currency: string;
  readonly stage: StageId;
  readonly standing: Standing;
  readonly kinds: readonly FindingKind[];
  readonly age: number;
}
type Key = keyof Keyed;

/** How many deals are, and what may be told of them beside: as states are added up, as their groups are, and as kept sums are. */
const DEALS = {
  each: 'count(*)',
  all: 'coalesce(sum(deals), 0)::int',
  kept: 'coalesce(sum(d.deals), 0)::int',
} as const;
const MEASURES = {
  /** Past their stage's target. */
  past: {
    each: `count(*) filter (where ${PAST_TARGET})`,
    all: 'coalesce(sum(past), 0)::int',
    kept: `coalesce(sum(d.deals) filter (where ${PAST_TARGET}), 0)::int`,
  },
  /** Their values, as they are; null where none has one. */
  minor: {
    each: 'sum(d.value_minor)',
    all: 'sum(minor)::float8',
    kept: '(case when sum(d.valued) > 0 then sum(d.minor) end)::float8',
  },
} as const;

interface Measured {
  readonly past: number;
  readonly minor: number | null;
}
type Measure = keyof Measured;

export type OpenCounts<K extends Key, M extends Measure = never> = Pick<Keyed, K> &
  Pick<Measured, M> & { readonly deals: number };

type Book = Omit<OpenBook, 'condition'>;

/** The deals of each part of a book by their shapes, and by the days they came to their stages where ages are asked for. */
function groups(book: Book, keys: readonly Key[], measures: readonly string[], also = ['true']): string {
  const by = keys.includes('age') ? 'shape, entered_day' : 'shape';
  return book.parts
    .flatMap((part) => also.map((one) => `${part} and ${one}`))
    .map((part) => `select ${[by, ...measures].join(', ')} from deal_states d where ${part} group by ${by}`)
    .join(' union all ');
}

const groupBy = (columns: readonly (string | number)[]): string =>
  columns.length > 0 ? `group by ${columns.join(', ')}` : '';

/** Groups by the keys that are asked for. */
function told({ standing }: Book, keys: readonly Key[], measures: readonly string[]): string {
  const columns = [...keys.map((key) => `${KEYS[key].shape} as ${key}`), ...measures];
  return `select ${columns.join(', ')} from groups where ${ofStanding(KEYS.standing.shape, standing)}
    ${groupBy(keys.map((_key, place) => place + 1))}`;
}

/** The same by the sums that are kept: those that have come and gone since these were folded are none. */
function keptSums(sums: string, { standing }: Book, keys: readonly Key[], measures: readonly string[]): string {
  const columns = [...keys.map((key) => `${KEYS[key].kept} as ${key}`), ...measures];
  return `select ${columns.join(', ')} from open_sums d where ${sums} and ${ofStanding(KEYS.standing.column, standing)}
    ${groupBy(keys.map((key) => KEYS[key].column))} ${keys.length > 0 ? 'having sum(d.deals) <> 0' : ''}`;
}

/** How many open deals there are by what tells them apart, with what else is asked of them. */
export function countOpen<K extends Key, M extends Measure = never>(
  connection: Connection,
  book: Book,
  { by, measures = [] }: { readonly by: readonly K[]; readonly measures?: readonly M[] },
  today: string,
): Promise<OpenCounts<K, M>[]> {
  const added = (how: keyof typeof DEALS): readonly string[] => [
    `${DEALS[how]} as deals`,
    ...measures.map((name) => `${MEASURES[name][how]} as ${name}`),
  ];
  const statement =
    book.sums === null
      ? `with groups as (${groups(book, by, added('each'))}) ${told(book, by, added('all'))}`
      : keptSums(book.sums, book, by, added('kept'));
  return sql(connection, keptOfWhole(book, statement), { ...book.parameters, today });
}

/** The currency in which values are told, and decimal places of those that have not two. */
export interface Reckoning {
  readonly currency: string;
  readonly digits: Readonly<Record<string, number>>;
}

export type OpenSums<K extends Key, M extends Measure = never> = OpenCounts<K, M | 'minor'> & {
  /** In the currency asked for, as far as there are rates. */
  readonly minor: number;
  readonly withoutRate: number;
};

/** The same with what they are worth in one currency, each value rounded before anything is summed (S33). */
export async function sumOpen<K extends Exclude<Key, 'currency'>, M extends Exclude<Measure, 'minor'> = never>(
  connection: Connection,
  book: Book,
  { by, measures = [] }: { readonly by: readonly K[]; readonly measures?: readonly M[] },
  today: string,
  reckoning: Reckoning,
): Promise<OpenSums<K, M>[]> {
  const asked: Asked = { by: ['currency', ...by], measures: ['minor', ...measures] };
  const counted: readonly Row[] = await countOpen(connection, book, asked, today);
  const isForeign = ({ currency, minor }: Row): boolean => currency !== reckoning.currency && minor !== null;
  const others = counted.some(isForeign) ? await convertOthers(connection, book, by, today, reckoning) : [];
  const own = counted.map((row) => ({ ...row, minor: isForeign(row) ? 0 : (row.minor ?? 0), withoutRate: 0 }));
  const summed = ['deals', 'minor', 'withoutRate', ...measures] as const;
  const sums = new Map<string, Record<string, unknown>>();
  for (const row of [...own, ...others]) {
    const values: Readonly<Record<string, unknown>> = row;
    const group = JSON.stringify(by.map((key) => values[key]));
    const sum = sums.get(group) ?? Object.fromEntries(by.map((key) => [key, values[key]]));
    for (const name of summed) sum[name] = Number(sum[name] ?? 0) + Number(values[name] ?? 0);
    sums.set(group, sum);
  }
  return [...sums.values()] as OpenSums<K, M>[];
}

interface Asked {
  readonly by: readonly Key[];
  readonly measures: readonly Measure[];
}
type Row = Partial<Keyed & Measured>;

/* Those of another currency stand before and behind those of the one asked for, in the order of the index. */
const OTHERS = ['d.shape < :currency::text', `d.shape > :currency::text || '!'`].map(
  (other) => `${other} and d.value_minor is not null`,
);
const WORTH = converted('d.value_minor', 'left(d.shape, 3)');

/** What values in other currencies are worth in the one asked for. */
const convertOthers = (
  connection: Connection,
  book: Book,
  by: readonly Key[],
  today: string,
  reckoning: Reckoning,
): Promise<Row[]> => {
  const each = [`sum(${WORTH}) as minor`, `count(*) filter (where ${WORTH} is null) as without_rate`];
  const all = ['coalesce(sum(minor), 0)::float8 as minor', 'sum(without_rate)::int as "withoutRate"'];
  const statement = `with ${REPORTING_RATES}, groups as (${groups(book, by, each, OTHERS)}) ${told(book, by, all)}`;
  return sql(connection, keptOfWhole(book, statement), { ...book.parameters, ...reckoning, today });
};
