import type { ProcessId, Standing } from '@ladder/core';
import { seesAll } from '../../access/dealAccess.ts';
import { seenDealIds, visibleDeals } from '../../access/repository.ts';
import { at, type Connection, sql } from '../../db/sql.ts';
import type { Person } from '../../session/person.ts';

/*
 * Lists, lanes, compliance and movement read how deals stand from one narrow table, `deal_states d`: what core's
 * `reviseStates` made of each deal, from when to when. Now and any past instant are the same reading.
 */

/**
 * What is so at :now. What was over by the deal's last change is never shown, and in none of the indexes that lists go by;
 * what was so by then is shown by a server too whose clock is behind.
 */
export const SO_NOW = `d.shown_from <= :now and d.shown_from < 'infinity' and d.to_at > :now`;

/** What was so at :now, however long ago. */
export const SO_THEN = 'd.to_at > :now and d.from_at <= :now';

/** Whether an open deal is longer in its stage on :today than its target allows; core's `isPastTarget`. */
export const PAST_TARGET = 'd.move_on_day < :today::date';

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

/** That deals `d` are this person's, or this team's; by the id in the parameter of that name, or `none`. */
export const ofWhom = (whose: 'owner' | 'team', id: string | undefined): string =>
  id === 'none' ? `d.${whose}_id is null` : `(:${whose}::uuid is null or d.${whose}_id = :${whose}::uuid)`;

/** How lists, measures and reports are narrowed to whose deals they are of. */
export type WhoseFilter = Pick<DealFilter, 'owner' | 'team'>;

/** That deals `d` are of whom was asked for; of anyone where nobody was. Needs both as parameters. */
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
export function narrowed(person: Person, { owner, team, standing, closeBefore, pastTargetOn }: DealFilter): Scope {
  const seen = visibleDeals(person);
  return {
    condition: `${seen.condition} and ${ofWhose({ owner, team })}
      and (:standing::text is null or d.standing = :standing::text) and (:closeBefore::date is null or d.close_date <= :closeBefore::date)
      and (:pastTargetOn::date is null or d.move_on_day < :pastTargetOn::date)`,
    parameters: { ...seen.parameters, owner, team, standing, closeBefore, pastTargetOn },
  };
}

/** The open deals of a process that a person may see, narrowed. */
export interface OpenBook extends Scope {
  /** Whether they are few, and looked up one by one; where they are many, all that are open are gone through. */
  readonly few: boolean;
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

/** The open deals of a process that the person may see, narrowed; `few` is what counts as few. */
export async function openBook(
  connection: Connection,
  person: Person,
  process: ProcessId,
  filter: DealFilter,
  now: number,
  few = FEW,
): Promise<OpenBook> {
  const scope = narrowed(person, filter);
  const condition = `d.process_id = :process::uuid and d.status = 'open' and ${SO_NOW} and ${scope.condition}`;
  const parameters = { ...scope.parameters, process, now: at(now) };
  const theirs = await lookedUp(connection, person, process, filter, few);
  return theirs
    ? { condition: `${condition} and ${theirs.condition}`, parameters, few: true }
    : { condition, parameters, few: false };
}
