import type { FindingKind, StageId, Standing } from '@ladder/core';
import { type Connection, sql } from '../../db/sql.ts';
import { converted, minorDigitsInUse, REPORTING_RATES } from '../../setting/repository/rates.ts';
import { keptOfWhole, type OpenBook, ofStanding, PAST_TARGET } from './openBook.ts';
import { enteredDay, isPastTarget, shapeNumber, withoutDays } from './sumKey.ts';

/*
 * Lanes, compliance and movement add up the open book by its shapes: the currency, stage, standing and kinds of findings of a
 * state, which has their number among `state_shapes`. There are few shapes, and what is asked is told by them. What all open
 * deals of a process add up to PostgreSQL keeps in `open_sums` while their states are written; narrowed ones, and those of past
 * days, are gone through by an index that has all of it.
 */

/** By what open deals may be told apart, as the `key` of a group with its shape `s` has it, and as kept sums do. */
const KEYS = {
  currency: { column: 's.currency', kept: 'd.currency' },
  stage: { column: 's.stage_id', kept: 'd.stage_id' },
  standing: { column: 's.standing', kept: 'd.standing' },
  /** Of the findings that stand, each as often as it does. */
  kinds: { column: 's.kinds', kept: 'd.kinds' },
  /** Days in the stage. */
  age: { column: enteredDay('key'), kept: 'd.entered_day' },
} as const;

const told = (key: Key, of: 'column' | 'kept'): string => {
  const column = KEYS[key][of];
  if (key === 'kinds') return `array_remove(string_to_array(${column}, ' '), '')`;
  return key === 'age' ? `greatest(0, :today::date - (${column}))` : column;
};

interface Keyed {
  readonly currency: string;
  readonly stage: StageId;
  readonly standing: Standing;
  readonly kinds: readonly FindingKind[];
  readonly age: number;
}
type Key = keyof Keyed;

/** How many deals are, and what may be told of them beside: as states are added up, corrections of them, their groups, and kept sums. */
const DEALS = {
  each: 'count(*)',
  corrected: 'sum(d.counts)',
  all: 'coalesce(sum(deals), 0)::int',
  kept: 'coalesce(sum(d.deals), 0)::int',
} as const;
const MEASURES = {
  /** Past their stage's target. */
  past: {
    each: null,
    corrected: null,
    all: `coalesce(sum(deals) filter (where ${isPastTarget('key', ':today::date')}), 0)::int`,
    kept: `coalesce(sum(d.deals) filter (where ${PAST_TARGET}), 0)::int`,
  },
  /** Their values, as they are; null where none has one. */
  minor: {
    each: 'sum(d.value_minor)',
    corrected: 'sum(d.counts * d.value_minor)',
    all: 'sum(minor)::float8',
    kept: '(case when sum(d.valued) > 0 then sum(d.minor) end)::float8',
  },
  /** Those whose value has no rate, where values are converted: there are none before they are. */
  withoutRate: { each: null, corrected: null, all: '0', kept: '0' },
} as const;

interface Measured {
  readonly past: number;
  readonly minor: number | null;
  readonly withoutRate: number;
}
type Measure = keyof Measured;

export type OpenCounts<K extends Key, M extends Measure = never> = Pick<Keyed, K> &
  Pick<Measured, M> & { readonly deals: number };

type Book = Omit<OpenBook, 'condition'>;

interface Asked {
  readonly by: readonly Key[];
  readonly measures?: readonly Measure[];
}

/** What is told of each group of states, and of corrections of them. */
interface Added {
  readonly each: readonly string[];
  readonly corrected: readonly string[];
}

/** The deals of each part of a book by their shapes, and by their days where these tell what is asked for. */
function groups(
  { parts, corrections }: Book,
  { by, measures = [] }: Asked,
  { each, corrected }: Added,
  beside = '',
): string {
  const key = by.includes('age') || measures.includes('past') ? 'd.sum_key' : withoutDays('d.sum_key');
  const of = (table: string, added: readonly string[], which: string): string =>
    `select ${[`${key} as key`, ...added].join(', ')} from ${table} d ${beside} where ${which} group by 1`;
  return [
    ...parts.map((part) => of('deal_states', each, part)),
    ...(corrections === null ? [] : [of('state_corrections', corrected, corrections)]),
  ].join(' union all ');
}

const groupBy = (columns: readonly (string | number)[]): string =>
  columns.length > 0 ? `group by ${columns.join(', ')}` : '';

/** What groups say, by the keys that are asked for. */
function ofGroups({ standing }: Book, keys: readonly Key[], all: readonly string[]): string {
  const columns = [...keys.map((key) => `${told(key, 'column')} as ${key}`), ...all];
  return `select ${columns.join(', ')} from groups join state_shapes s on s.number = ${shapeNumber('key')}
    where ${ofStanding(KEYS.standing.column, standing)} ${groupBy(keys.map((_key, place) => place + 1))}`;
}

/** The same by the sums that are kept: those that have come and gone since these were folded are none. */
function ofKeptSums(sums: string, { standing }: Book, keys: readonly Key[], kept: readonly string[]): string {
  const columns = [...keys.map((key) => `${told(key, 'kept')} as ${key}`), ...kept];
  return `select ${columns.join(', ')} from open_sums d where ${sums} and ${ofStanding(KEYS.standing.kept, standing)}
    ${groupBy(keys.map((key) => KEYS[key].kept))} ${keys.length > 0 ? 'having sum(d.deals) <> 0' : ''}`;
}

/** How many open deals there are by what tells them apart, with what else is asked of them. */
export function countOpen<K extends Key, M extends Measure = never>(
  connection: Connection,
  book: Book,
  asked: { readonly by: readonly K[]; readonly measures?: readonly M[] },
  today: string,
): Promise<OpenCounts<K, M>[]> {
  const { by, measures = [] } = asked;
  const added = (how: keyof typeof DEALS): readonly string[] => [
    `${DEALS[how]} as deals`,
    ...measures.flatMap((name) => (MEASURES[name][how] === null ? [] : [`${MEASURES[name][how]} as "${name}"`])),
  ];
  const statement =
    book.sums === null
      ? `with groups as (${groups(book, asked, { each: added('each'), corrected: added('corrected') })}) ${ofGroups(book, by, added('all'))} ${book.corrections === null ? '' : 'having sum(deals) <> 0'}`
      : ofKeptSums(book.sums, book, by, added('kept'));
  return sql(connection, keptOfWhole(book, statement), { ...book.parameters, today });
}

export type OpenSums<K extends Key, M extends Measure = never> = OpenCounts<K, M | 'minor' | 'withoutRate'> & {
  /** In the currency asked for, as far as there are rates. */
  readonly minor: number;
};

/** The same with what they are worth in the reporting currency, each value rounded before anything is summed (S33). */
export async function sumOpen<
  K extends Exclude<Key, 'currency'>,
  M extends Exclude<Measure, 'minor' | 'withoutRate'> = never,
>(
  connection: Connection,
  book: Book,
  { by, measures = [] }: { readonly by: readonly K[]; readonly measures?: readonly M[] },
  today: string,
  reporting: string,
): Promise<OpenSums<K, M>[]> {
  const asked: Asked = { by: ['currency', ...by], measures: ['minor', 'withoutRate', ...measures] };
  const own: Row[] = await countOpen(connection, book, asked, today);
  const isForeign = ({ currency, minor }: Row): boolean => currency !== reporting && minor !== null;
  const others = own.some(isForeign) ? await convertOthers(connection, book, by, today, reporting) : [];
  // A large book is told by thousands of rows, which are changed in place: copied with another amount, each would have a shape of its own.
  for (const row of own) if (row.minor === null || isForeign(row)) row.minor = 0;
  const isOfOne = others.length === 0 && own.every(({ currency }) => currency === own[0]?.currency);
  const rows = isOfOne ? own : mergedBy(by, ['deals', 'minor', 'withoutRate', ...measures], [...own, ...others]);
  return rows as OpenSums<K, M>[];
}

/** One row for all that have these keys alike. */
function mergedBy(
  by: readonly string[],
  summed: readonly string[],
  rows: readonly Readonly<Record<string, unknown>>[],
): Readonly<Record<string, unknown>>[] {
  const sums = new Map<string, Record<string, unknown>>();
  for (const row of rows) {
    const group = JSON.stringify(by.map((key) => row[key]));
    const sum = sums.get(group) ?? Object.fromEntries(by.map((key) => [key, row[key]]));
    for (const name of summed) sum[name] = Number(sum[name] ?? 0) + Number(row[name] ?? 0);
    sums.set(group, sum);
  }
  // Deals that were corrected away have values that add up to nothing.
  return [...sums.values()].filter(({ deals }) => deals !== 0);
}

type Row = Partial<Keyed & Omit<Measured, 'minor'>> & { minor?: number | null };

const onlyOthers = ({ shape }: Book): string =>
  `join state_shapes s on s.number = ${shape} and s.currency <> :currency::text and d.value_minor is not null`;
const WORTH = converted('d.value_minor', 's.currency');

/** What values in other currencies are worth in the one asked for. */
async function convertOthers(
  connection: Connection,
  book: Book,
  by: readonly Key[],
  today: string,
  currency: string,
): Promise<Row[]> {
  const digits = await minorDigitsInUse(connection);
  const added = {
    each: [`sum(${WORTH}) as minor`, `count(*) filter (where ${WORTH} is null) as without_rate`],
    corrected: [
      `sum(d.counts * ${WORTH}) as minor`,
      `coalesce(sum(d.counts) filter (where ${WORTH} is null), 0) as without_rate`,
    ],
  };
  const all = ['coalesce(sum(minor), 0)::float8 as minor', 'sum(without_rate)::int as "withoutRate"'];
  const statement = `with ${REPORTING_RATES}, groups as (${groups(book, { by }, added, onlyOthers(book))}) ${ofGroups(book, by, all)}`;
  return sql(connection, keptOfWhole(book, statement), { ...book.parameters, currency, digits, today });
}
