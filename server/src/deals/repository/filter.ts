import type { Standing } from '@ladder/core';

/** How lists, lanes and measures may be narrowed. */
export interface DealFilter {
  readonly owner?: string;
  readonly team?: string;
  readonly standing?: Standing;
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
