import { addDays } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { Choice } from '../../parts/Choice.tsx';
import { NO_TEAM, NOBODY } from '../processes/ProcessBar.tsx';
import { useGetPeopleQuery, useGetTeamsQuery } from '../session/sessionApi.ts';
import type { Choose } from './DealsPage.tsx';
import type { DealFilters } from './dealsApi.ts';

interface FiltersProps {
  readonly filters: DealFilters;
  readonly choose: Choose;
  /** The day that deals are told of. */
  readonly day: string;
}

/** Narrows lanes and table by owner, team, close date, standing and time in the stage. */
export function Filters({ filters, choose, day }: FiltersProps) {
  const { data: people } = useGetPeopleQuery();
  const { data: teams } = useGetTeamsQuery();
  const inDays = (days: number) => addDays(day, days);
  return (
    <div className="filters">
      <Choice
        label="Owner"
        none="Anyone"
        value={filters.owner ?? ''}
        onChoose={(chosen) => choose('owner', chosen)}
        options={[...(people?.items.filter(({ role }) => role === 'seller' || role === 'manager') ?? []), NOBODY]}
      />
      <Choice
        label="Team"
        none="All"
        value={filters.team ?? ''}
        onChoose={(chosen) => choose('team', chosen)}
        options={[...(teams?.items ?? []), NO_TEAM]}
      />
      <Choice
        label="Close date"
        none="Any"
        value={filters.closeBefore ?? ''}
        onChoose={(chosen) => choose('closeBefore', chosen)}
        options={[
          { id: inDays(-1), name: 'Past' },
          { id: inDays(30), name: 'Within 30 days' },
          { id: inDays(90), name: 'Within 90 days' },
        ]}
      />
      <Form.Check
        className="pick"
        id="only-held"
        label="Only held"
        checked={filters.standing === 'held'}
        onChange={(event) => choose('standing', event.target.checked ? 'held' : null)}
      />
      <Form.Check
        className="pick"
        id="past-target"
        label="Past target"
        checked={filters.pastTarget === 'yes'}
        onChange={(event) => choose('pastTarget', event.target.checked ? 'yes' : null)}
      />
    </div>
  );
}
