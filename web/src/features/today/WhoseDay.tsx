import { useSession } from '../../client/session.ts';
import { Choice } from '../../parts/Choice.tsx';
import { useGetPeopleQuery, useGetTeamsQuery } from '../session/sessionApi.ts';
import type { DayArguments } from './todayApi.ts';

interface WhoseDayProps {
  readonly asked: DayArguments;
  readonly onChoose: (whose: Pick<DayArguments, 'person' | 'team'>) => void;
}

/** Whose day is shown: a manager sees their teams and their people, an administrator all; a seller their own alone. */
export function WhoseDay({ asked, onChoose }: WhoseDayProps) {
  const { person } = useSession();
  return person.role === 'manager' || person.role === 'administrator' ? (
    <Choices asked={asked} onChoose={onChoose} />
  ) : null;
}

function Choices({ asked, onChoose }: WhoseDayProps) {
  const { person } = useSession();
  const { data: people } = useGetPeopleQuery();
  const { data: teams } = useGetTeamsQuery();
  const isAll = person.role === 'administrator';
  const theirTeams = teams?.items.filter(({ id }) => isAll || person.teams.includes(id)) ?? [];
  const theirPeople =
    people?.items.filter(
      ({ id, role, teams: of }) =>
        id !== person.id && role !== 'viewer' && (isAll || of.some((team) => person.teams.includes(team))),
    ) ?? [];
  const choose = (chosen: string) => {
    const [kind = '', id = ''] = chosen.split(' ');
    onChoose(kind === '' ? {} : { [kind]: id });
  };
  return (
    <Choice
      label="Day of"
      none="myself"
      value={asked.team ? `team ${asked.team}` : asked.person ? `person ${asked.person}` : ''}
      options={[
        ...theirTeams.map(({ id, name }) => ({ id: `team ${id}`, name })),
        ...theirPeople.map(({ id, name }) => ({ id: `person ${id}`, name })),
      ]}
      onChoose={choose}
    />
  );
}
