/** How lists, lanes and measures may be narrowed. */
export interface DealFilter {
  readonly owner?: string;
  readonly team?: string;
  readonly standing?: 'clear' | 'flagged' | 'held';
  readonly closeBefore?: string;
}

/** Conditions on `deals d` and its standing `s`, and their parameters. */
export function filterDeals(filter: DealFilter): { condition: string; parameters: Record<string, unknown> } {
  return {
    condition: `(:owner::uuid is null or d.owner_id = :owner::uuid) and (:team::uuid is null or d.team_id = :team::uuid)
      and (:standing::text is null or coalesce(s.standing, 'clear') = :standing::text) and (:closeBefore::date is null or d.close_date <= :closeBefore::date)`,
    parameters: { owner: filter.owner, team: filter.team, standing: filter.standing, closeBefore: filter.closeBefore },
  };
}

/** Open findings of a process's deals at :now, reduced to a standing a deal; by the one definition of core (S16). */
export const STANDINGS_OF_PROCESS = `
  select f.deal_id, case when bool_or(f.level = 'hold') then 'held' else 'flagged' end as standing, count(*)::int as findings,
    count(*) filter (where f.origin in ('owed', 'entry'))::int as owed
  from findings f where f.process_id = :process::uuid and f.closed_at > :now and f.opened_at <= :now group by f.deal_id`;
