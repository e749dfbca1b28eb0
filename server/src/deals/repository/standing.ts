/*
 * The one place in SQL where a deal's standing and its target are told; core's are `standingAt` and `isPastTarget`
 * (`differential.test.ts` holds them against each other).
 */

const FOUND_NOW = 'f.closed_at > :now and f.opened_at <= :now';

/** Findings in force reduced to a standing (S16); null where there are none. */
const REDUCED = `case when bool_or(f.level = 'hold') then 'held' when count(*) > 0 then 'flagged' end as standing,
  count(*)::int as findings, count(*) filter (where f.origin in ('owed', 'entry'))::int as owed`;

/** Standings of a process's deals at :now, a row a deal that has findings. */
export const STANDINGS_OF_PROCESS = `
  select f.deal_id, ${REDUCED} from findings f where f.process_id = :process::uuid and ${FOUND_NOW} group by f.deal_id`;

/** As `s`: standings of single deals `d`, of one page, or of all where the list is filtered by it. */
export const STANDING_OF_DEAL = `left join lateral (select ${REDUCED} from findings f where f.deal_id = d.id and ${FOUND_NOW}) s on true`;

/** Whether an open deal `d` is longer in its stage on :today than its target allows. */
export const PAST_TARGET = 'd.move_on_day < :today::date';
