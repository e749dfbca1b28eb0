import type { ProcessId, Standing } from '@ladder/core';
import { seesAll } from '../../access/dealAccess.ts';
import { seenDealIds, visibleDeals } from '../../access/repository.ts';
import { kept } from '../../db/keepingClient.ts';
import { at, type Connection, sql } from '../../db/sql.ts';
import type { Person } from '../../session/person.ts';
import { isPastTarget } from './sumKey.ts';

/*
 * Lists, lanes, compliance and movement read how deals stand from one narrow table, `deal_states d`: what core's
 * `reviseStates` made of each deal, from when to when. Now and any past instant are the same reading. Among the states are
 * corrections, which no list shows: what makes of what is known of a past day what was known on it.
 */

/**
 * What is so at :now. What was over by the deal's last change is never shown, and in none of the indexes that lists go by;
 * what was so by then is shown by a server too whose clock is behind.
 */
export const SO_NOW = `d.shown_from <= :now and d.shown_from < 'infinity' and d.to_at > :now`;

const BY_LAST_CHANGE = `d.shown_from = '-infinity' and d.to_at > :now`;
const TURNED_SINCE = `d.shown_from > '-infinity' and ${SO_NOW}`;

/** The same in two parts, each with an index of its own: what was so by the last change, and what time alone has turned since. */
export const SO_NOW_PARTS: readonly string[] = [BY_LAST_CHANGE, TURNED_SINCE];

/** In so many days each span of a state that is over ends; the last is of those that lasted longer. */
const SPANS: readonly number[] = Array.from({ length: 12 }, (_, span) => 2 ** (span + 1));
const THEN = 'd.from_at <= :now and d.to_at > :now';
const OVER = `d.shown_from = 'infinity' and ${THEN}`;

/**
 * What was so at :now, however long ago: of what is so by the last change what was so by then, and of what was over by it each
 * span by itself, of which no more is gone through than began within its length.
 */
export const SO_THEN_PARTS: readonly string[] = [
  `${BY_LAST_CHANGE} and d.from_at <= :now`,
  TURNED_SINCE,
  ...SPANS.map(
    (days, span) =>
      `d.span = ${span} and ${OVER} and d.from_at > :now::timestamptz - interval '${days * 86_400} seconds'`,
  ),
  `d.span = ${SPANS.length} and ${OVER}`,
];

const IS_STATE = 'd.correction = 0';
const IS_CORRECTION = 'd.correction <> 0';
/** How often a correction has its deal: once more, or once less. */
export const CORRECTED_BY = 'sign(d.correction)';

/** Whether an open deal is longer in its stage on :today than its target allows; core's `isPastTarget`. */
export const PAST_TARGET = isPastTarget('d.sum_key', ':today::date');

/** How lists, lanes and measures may be narrowed. */
export interface DealFilter {
  readonly owner?: string;
  readonly team?: string;
  readonly standing?: Standing;
  readonly closeBefore?: string;
  /** Those alone that are past their stage's target on this day. */
  readonly pastTargetOn?: string;
}

/** The same as it is asked for: the day is the organisation's own. */
export interface AskedFilter extends Omit<DealFilter, 'pastTargetOn'> {
  readonly pastTarget?: 'yes';
}

export const filterOn = ({ pastTarget, ...filter }: AskedFilter, today: string): DealFilter =>
  pastTarget ? { ...filter, pastTargetOn: today } : filter;

/** What was not asked for is no part of a statement: one that is kept would look at it for every deal. */
const ifGiven = (given: string | undefined, condition: string): string => (given === undefined ? 'true' : condition);

/** That deals `d` are this person's, or this team's; by the id in the parameter of that name, or `none`. */
export const ofWhom = (whose: 'owner' | 'team', id: string | undefined): string =>
  ifGiven(id, id === 'none' ? `d.${whose}_id is null` : `d.${whose}_id = :${whose}::uuid`);

/** How lists, measures and reports are narrowed to whose deals they are of. */
export type WhoseFilter = Pick<DealFilter, 'owner' | 'team'>;

/** That deals `d` are of whom was asked for; of anyone where nobody was. Needs as parameters what was. */
export const ofWhose = ({ owner, team }: WhoseFilter): string =>
  `${ofWhom('owner', owner)} and ${ofWhom('team', team)}`;

/** That deals `d` are of the process that was asked for, or of any. */
export const OF_PROCESS = '(:process::uuid is null or d.process_id = :process::uuid)';

/** A condition and its parameters. */
export interface Scope {
  readonly condition: string;
  readonly parameters: Readonly<Record<string, unknown>>;
}

/** What the person may see, narrowed. */
export function narrowed(person: Person, { standing, ...filter }: DealFilter): Scope {
  const scope = ofAnyStanding(person, filter);
  return {
    condition: `${scope.condition} and ${ofStanding('d.standing', standing)}`,
    parameters: { ...scope.parameters, standing },
  };
}

/** That what stands there is the standing that was asked for. */
export const ofStanding = (there: string, standing: Standing | undefined): string =>
  ifGiven(standing, `${there} = :standing::text`);

const ofPastTarget = (day: string | undefined): string =>
  ifGiven(day, isPastTarget('d.sum_key', ':pastTargetOn::date'));

function ofAnyStanding(
  person: Person,
  { owner, team, closeBefore, pastTargetOn }: Omit<DealFilter, 'standing'>,
): Scope {
  const seen = visibleDeals(person);
  return {
    condition: `${seen.condition} and ${ofWhose({ owner, team })}
      and ${ifGiven(closeBefore, 'd.close_date <= :closeBefore::date')} and ${ofPastTarget(pastTargetOn)}`,
    parameters: { ...seen.parameters, owner, team, closeBefore, pastTargetOn },
  };
}

/** The open deals of a process that a person may see, narrowed. */
export interface OpenBook extends Scope {
  /** Whether they are few, and looked up one by one; where they are many, all that are open are gone through. */
  readonly few: boolean;
  /** Conditions that tell them together but for their standing, by the index that each goes by. */
  readonly parts: readonly string[];
  /** What tells their corrections, none of which is in a part; null where it is not asked for what was known on a past day. */
  readonly corrections: string | null;
  /** The only one, where they are narrowed to one. */
  readonly standing: Standing | undefined;
  /** Whether they are all that the person sees, and many. */
  readonly whole: boolean;
}

/** So many are looked up sooner than a process's open deals are gone through. */
const FEW = 2_000;

/**
 * A condition that looks up those of the open deals `d` that the person sees, narrowed to whose they are, of one process or of
 * all; null where they are more than `few`.
 */
export async function lookedUp(
  connection: Connection,
  person: Person,
  process: ProcessId | null,
  { owner, team }: WhoseFilter,
  few = FEW,
): Promise<Scope | null> {
  if (seesAll(person) && owner === undefined && team === undefined) return null;
  const theirs = seenDealIds(person, `${OF_PROCESS} and d.status = 'open' and ${ofWhose({ owner, team })}`);
  const parameters = { ...theirs.parameters, process: process ?? undefined, owner, team };
  const [seen] = await sql<{ deals: number }>(
    connection,
    `select count(*)::int as deals from (${theirs.condition} limit :most) seen`,
    { ...parameters, most: few + 1 },
  );
  return (seen?.deals ?? 0) > few ? null : { condition: `d.deal_id in (${theirs.condition})`, parameters };
}

const isWhole = (filter: DealFilter): boolean => Object.values(filter).every((value) => value === undefined);

/** Of a day that has gone by: what is known of it now, or what was known then (S21). */
export type Known = 'now' | 'then';

/**
 * The deals of a process that were open at an instant that has gone by, of those that were then of people or teams whose deals
 * the person sees; narrowed by whose they were and how they stood then (S22).
 */
export function pastBook(
  person: Person,
  process: ProcessId,
  { standing, ...filter }: DealFilter,
  then: number,
  known: Known = 'now',
): OpenBook {
  const { condition, parameters } = ofAnyStanding(person, filter);
  const among = `${OPEN_IN} and ${condition}`;
  return {
    condition: `${among} and ${IS_STATE} and ${THEN} and ${ofStanding('d.standing', standing)}`,
    parameters: { ...parameters, standing, process, now: at(then) },
    few: false,
    whole: seesAll(person) && isWhole({ standing, ...filter }),
    standing,
    parts: SO_THEN_PARTS.map((part) => `${among} and ${part}`),
    corrections: known === 'then' ? `${among} and ${IS_CORRECTION} and ${THEN}` : null,
  };
}

/** A statement on a whole book is asked again and again, and what planning it takes is half of a page of cards. */
export const keptOfWhole = ({ whole }: Pick<OpenBook, 'whole'>, statement: string): string =>
  whole ? kept(statement) : statement;

const OPEN_IN = `d.process_id = :process::uuid and d.status = 'open'`;

/** All open deals of a process. */
export const wholeBook = (process: ProcessId, now: number): Omit<OpenBook, 'condition'> => ({
  few: false,
  whole: true,
  standing: undefined,
  parts: SO_NOW_PARTS.map((part) => `${OPEN_IN} and ${part}`),
  corrections: null,
  parameters: { process, now: at(now) },
});

/** The open deals of a process that the person may see, narrowed; `few` is what counts as few. */
export async function openBook(
  connection: Connection,
  person: Person,
  process: ProcessId,
  filter: DealFilter,
  now: number,
  few = FEW,
): Promise<OpenBook> {
  const [scope, theirs] = [narrowed(person, filter), await lookedUp(connection, person, process, filter, few)];
  const among = `${OPEN_IN} and ${theirs?.condition ?? 'true'}`;
  const { condition } = ofAnyStanding(person, filter);
  return {
    condition: `${among} and ${SO_NOW} and ${scope.condition}`,
    parameters: { ...scope.parameters, process, now: at(now) },
    few: theirs !== null,
    whole: theirs === null && isWhole(filter),
    standing: filter.standing,
    parts: (theirs ? [SO_NOW] : SO_NOW_PARTS).map((part) => `${among} and ${part} and ${condition}`),
    corrections: null,
  };
}
