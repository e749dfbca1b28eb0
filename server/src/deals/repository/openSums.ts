import type { FindingKind, StageId, Standing } from '@ladder/core';
import { type Connection, sql } from '../../db/sql.ts';
import { converted, minorDigitsInUse, REPORTING_RATES } from '../../setting/repository/rates.ts';
import { CORRECTED_BY, keptOfWhole, type OpenBook, ofStanding } from './openBook.ts';
import { enteredDay, isPastTarget, shapeNumber, withoutDays } from './sumKey.ts';

/*
 * Lanes, compliance and movement add up the open book by one number, the `sum_key` of each state: of its shape, which is its
 * currency, stage, standing and kinds of findings, and of its days. There are few shapes, and what is asked is told by them. As
 * of now and of any day, states are gone through by indexes that have all of it.
 */

/** By what open deals may be told apart, as the `key` of a group with its shape `s` has it. */
const KEYS = {
  currency: 's.currency',
  stage: 's.stage_id',
  standing: 's.standing',
  /** Of the findings that stand, each as often as it does. */
  kinds: `array_remove(string_to_array(s.kinds, ' '), '')`,
  /** Days in the stage. */
  age: `greatest(0, :today::date - (${enteredDay('key')}))`,
} as const;

interface Keyed {
  readonly currency: string;
  readonly stage: StageId;
  readonly standing: Standing;
  readonly kinds: readonly FindingKind[];
  readonly age: number;
}
type Key = keyof Keyed;

/** What is read of rows `d`, where anything is, and told of all that have a key in common. */
interface Told {
  /** Of rows that are each a deal. */
  readonly states?: string;
  /** Of corrections, each a deal once more or once less. */
  readonly corrections?: string;
  readonly all: string;
}
type Rows = Exclude<keyof Told, 'all'>;

const DEALS: Told = {
  states: 'count(*)::int',
  corrections: `sum(${CORRECTED_BY})::int`,
  all: 'coalesce(sum(deals), 0)::int',
};
/** What may be told beside. */
const MEASURES = {
  /** Past their stage's target. */
  past: { all: `coalesce(sum(deals) filter (where ${isPastTarget('key', ':today::date')}), 0)::int` },
  /** Their values, as they are; null where none has one. Exact as far as an answer's numbers are. */
  minor: {
    states: 'sum(d.value_minor::float8)',
    corrections: `sum(${CORRECTED_BY} * d.value_minor::float8)`,
    all: 'sum(minor)',
  },
  /** Those whose value has no rate, where values are converted: there are none before they are. */
  withoutRate: { all: '0' },
} as const satisfies Readonly<Record<string, Told>>;

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

type AllTold = Readonly<Record<string, Told>>;

/**
 * A statement that adds up such rows by their shapes, and by their days where these tell what is asked for, and tells by the keys
 * that are asked for what all of a key say.
 */
function addedUp(book: Book, { by, measures = [] }: Asked, told: AllTold, joined = ''): string {
  const key = by.includes('age') || measures.includes('past') ? 'd.sum_key' : withoutDays('d.sum_key');
  const groupsOf = (which: string, rows: Rows): string => {
    const each = Object.entries(told).flatMap(([name, { [rows]: column }]) =>
      column ? [`${column} as "${name}"`] : [],
    );
    return `select ${[`${key} as key`, ...each].join(', ')} from deal_states d ${joined} where ${which} group by 1`;
  };
  const groups = [
    ...book.parts.map((which) => groupsOf(which, 'states')),
    ...(book.corrections === null ? [] : [groupsOf(book.corrections, 'corrections')]),
  ];
  const columns = [
    ...by.map((name) => `${KEYS[name]} as ${name}`),
    ...Object.entries(told).map(([name, { all }]) => `${all} as "${name}"`),
  ];
  const places = by.map((_key, place) => place + 1);
  return `with groups as (${groups.join(' union all ')})
    select ${columns.join(', ')} from groups join state_shapes s on s.number = ${shapeNumber('key')}
    where ${ofStanding(KEYS.standing, book.standing)} ${groupedBy(places)}`;
}

const groupedBy = (keys: readonly (string | number)[]): string =>
  keys.length > 0 ? `group by ${keys.join(', ')}` : '';

interface Besides {
  readonly parameters: Readonly<Record<string, unknown>>;
  /** What states are joined with. */
  readonly joined?: string;
  readonly having?: string;
  /** What is selected from beside. */
  readonly ahead?: readonly string[];
}

/**
 * What such a statement tells. All that have their words alike come as one list of numbers: a stage has hundreds of ages, and
 * reading a row for each takes longer than adding up.
 */
async function tell(
  connection: Connection,
  book: Book,
  asked: Asked,
  told: AllTold,
  { parameters, joined, having = '', ahead = [] }: Besides,
): Promise<Row[]> {
  const words = asked.by.filter((key) => key !== 'age');
  const numbers = [...asked.by.filter((key) => key === 'age'), ...Object.keys(told)];
  const lists = `array_to_json(array_agg(array[${numbers.map((name) => `"${name}"::float8`).join(', ')}])) as lists`;
  const tables = [...ahead, `added as (${addedUp(book, asked, told, joined)} ${having})`];
  const rows = await sql<Record<string, unknown> & { readonly lists: readonly (readonly number[])[] | null }>(
    connection,
    keptOfWhole(
      book,
      `with ${tables.join(', ')} select ${[...words, lists].join(', ')} from added ${groupedBy(words)}`,
    ),
    { ...book.parameters, ...parameters },
  );
  return rows.flatMap((row) =>
    (row.lists ?? []).map((list) => {
      const one: Record<string, unknown> = {};
      for (const word of words) one[word] = row[word];
      for (const [place, name] of numbers.entries()) one[name] = list[place];
      return one as Row;
    }),
  );
}

/** How many open deals there are by what tells them apart, with what else is asked of them. */
export async function countOpen<K extends Key, M extends Measure = never>(
  connection: Connection,
  book: Book,
  asked: { readonly by: readonly K[]; readonly measures?: readonly M[] },
  today: string,
): Promise<OpenCounts<K, M>[]> {
  const told = { deals: DEALS, ...Object.fromEntries((asked.measures ?? []).map((name) => [name, MEASURES[name]])) };
  // Those that were corrected away are none.
  const rows = await tell(connection, book, asked, told, { parameters: { today }, having: 'having sum(deals) <> 0' });
  return rows as OpenCounts<K, M>[];
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

const ONLY_OTHERS = `join state_shapes s on s.number = ${shapeNumber('d.sum_key')} and s.currency <> :currency::text and d.value_minor is not null`;
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
  const told: AllTold = {
    minor: {
      states: `sum(${WORTH})`,
      corrections: `sum(${CORRECTED_BY} * ${WORTH})`,
      all: 'coalesce(sum(minor), 0)::float8',
    },
    withoutRate: {
      states: `count(*) filter (where ${WORTH} is null)`,
      corrections: `coalesce(sum(${CORRECTED_BY}) filter (where ${WORTH} is null), 0)`,
      all: 'sum("withoutRate")::int',
    },
  };
  const parameters = { currency, digits, today };
  return tell(connection, book, { by }, told, { parameters, joined: ONLY_OTHERS, ahead: [REPORTING_RATES] });
}
