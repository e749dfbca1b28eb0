import { addDays } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { Options } from '../../parts/Options.tsx';
import { NO_TEAM, NOBODY } from '../processes/ProcessBar.tsx';
import { useGetPeopleQuery, useGetTeamsQuery } from '../session/sessionApi.ts';
import type { Choose } from './DealsPage.tsx';
import type { DealFilters } from './dealsApi.ts';

/** Narrows lanes and table by owner, team, close date, standing and time in the stage. */
export function Filters({ filters, choose }: { filters: DealFilters; choose: Choose }) {
  const { organisation } = useSession();
  const { data: people } = useGetPeopleQuery();
  const { data: teams } = useGetTeamsQuery();
  const inDays = (days: number) => addDays(organisation.today, days);
  return (
    <div className="filters">
      <Pick
        name="owner"
        label="Owner"
        none="Anyone"
        value={filters.owner}
        choose={choose}
        options={[...(people?.items.filter(({ role }) => role === 'seller' || role === 'manager') ?? []), NOBODY]}
      />
      <Pick
        name="team"
        label="Team"
        none="All"
        value={filters.team}
        choose={choose}
        options={[...(teams?.items ?? []), NO_TEAM]}
      />
      <Pick
        name="closeBefore"
        label="Close date"
        none="Any"
        value={filters.closeBefore}
        choose={choose}
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

interface PickProps {
  readonly name: string;
  readonly label: string;
  readonly none: string;
  readonly value: string | undefined;
  readonly options: readonly { readonly id: string; readonly name: string }[];
  readonly choose: Choose;
}

function Pick({ name, label, none, value, options, choose }: PickProps) {
  return (
    <label className={`pick ${value ? 'set' : ''}`}>
      {label}
      <select value={value ?? ''} onChange={(event) => choose(name, event.target.value)}>
        <option value="">{none}</option>
        <Options of={options} />
      </select>
    </label>
  );
}
