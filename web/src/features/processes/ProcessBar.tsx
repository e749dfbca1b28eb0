import { addDays } from '@ladder/core';
import { useSearchParams } from 'react-router';
import { Choice } from '../../parts/Choice.tsx';
import { useGetPeopleQuery, useGetTeamsQuery } from '../session/sessionApi.ts';
import { type ProcessSummary, useListProcessesQuery } from './processesApi.ts';

/** Which process a measure is about, and how it is narrowed; all of it stands in the address. */
export interface MeasureChoice {
  readonly processes: readonly ProcessSummary[];
  readonly process: ProcessSummary | undefined;
  readonly filters: { readonly owner?: string; readonly team?: string };
  readonly isLoading: boolean;
  readonly get: (name: string) => string | null;
  readonly choose: (changes: Readonly<Record<string, string | null>>) => void;
}

export function useMeasureChoice(): MeasureChoice {
  const { data, isLoading } = useListProcessesQuery();
  const [search, setSearch] = useSearchParams();
  const processes = data?.items.filter(({ live }) => live) ?? [];
  const process =
    processes.find(({ id }) => id === search.get('process')) ??
    processes.toSorted((a, b) => b.openDeals - a.openDeals)[0];
  const choose = (changes: Readonly<Record<string, string | null>>) =>
    setSearch((current) => {
      const next = new URLSearchParams(current);
      for (const [name, value] of Object.entries(changes)) {
        if (value === null || value === '') next.delete(name);
        else next.set(name, value);
      }
      return next;
    });
  const filters = Object.fromEntries(
    ['owner', 'team'].flatMap((name) => (search.get(name) ? [[name, search.get(name)]] : [])),
  );
  return { processes, process, filters, isLoading, get: (name) => search.get(name), choose };
}

/** Deals of nobody, and of no team. */
export const NOBODY = { id: 'none', name: 'Nobody' };
export const NO_TEAM = { id: 'none', name: 'No team' };

/** The choices of a measure, for the head of its page. */
export function ProcessBar({ choice }: { choice: MeasureChoice }) {
  const { data: people } = useGetPeopleQuery();
  const { data: teams } = useGetTeamsQuery();
  const { processes, process, filters, choose } = choice;
  return (
    <>
      <Choice
        label="Process"
        value={process?.id ?? ''}
        options={processes.map(({ id, name, live }) => ({ id, name: `${name}, v${live?.number}` }))}
        onChoose={(id) => choose({ process: id, stage: null, kind: null })}
      />
      <Choice
        label="Team"
        none="All"
        value={filters.team ?? ''}
        options={[...(teams?.items ?? []), NO_TEAM]}
        onChoose={(team) => choose({ team })}
      />
      <Choice
        label="Owner"
        none="All"
        value={filters.owner ?? ''}
        options={[...(people?.items.filter(({ role }) => role === 'seller' || role === 'manager') ?? []), NOBODY]}
        onChoose={(owner) => choose({ owner })}
      />
    </>
  );
}

interface Period {
  readonly id: string;
  readonly name: string;
}

/** So many days until one, as the address says; the one that is usual where it says none. The first day, and the choice to show. */
export function usePeriod(choice: MeasureChoice, periods: readonly Period[], usual: string, until: string) {
  const days = periods.find(({ id }) => id === choice.get('days'))?.id ?? usual;
  const from = addDays(until, -Number(days));
  const shown = <Choice label="Period" value={days} options={periods} onChoose={(id) => choice.choose({ days: id })} />;
  return { from, shown };
}
