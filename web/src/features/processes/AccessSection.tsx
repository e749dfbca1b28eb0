import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { useGetTeamsQuery } from '../session/sessionApi.ts';
import { type ProcessDetail, useChangeProcessMutation } from './processesApi.ts';

interface AccessSectionProps {
  readonly process: ProcessDetail;
  readonly mayChange: boolean;
}

/** Whose sellers and managers see a process and its deals. */
export function AccessSection({ process, mayChange }: AccessSectionProps) {
  const [changeProcess, { error, isLoading }] = useChangeProcessMutation();
  const { data: teams } = useGetTeamsQuery();
  const named = process.access.teams;
  // Nothing is said until a team is named: nobody would see it meanwhile.
  const [isNaming, setNaming] = useState(false);
  const hasTeams = named !== undefined || isNaming;
  const set = (access: ProcessDetail['access']) => changeProcess({ id: process.id, body: { access } });
  const choose = (team: string, isChosen: boolean) => {
    const others = (named ?? []).filter((one) => one !== team);
    set({ teams: isChosen ? [...others, team] : others });
    setNaming(false);
  };
  return (
    <section>
      <header>
        <h3>
          Who sees it <small>at once</small>
        </h3>
      </header>
      <fieldset disabled={!mayChange || isLoading}>
        <legend className="visually-hidden">Who sees it</legend>
        <Form.Check
          type="radio"
          name="seen-by"
          id="seen-by-everyone"
          label="Everyone"
          checked={!hasTeams}
          onChange={() => {
            setNaming(false);
            if (named) set({});
          }}
        />
        <Form.Check
          type="radio"
          name="seen-by"
          id="seen-by-teams"
          label="Sellers and managers of these teams"
          checked={hasTeams}
          onChange={() => setNaming(true)}
        />
        {hasTeams && (
          <div className="access-teams">
            {teams?.items.map(({ id, name }) => (
              <Form.Check
                key={id}
                id={`seen-by-${id}`}
                label={name}
                checked={named?.includes(id) ?? false}
                // The last one stays: nobody would see the process.
                disabled={named?.length === 1 && named[0] === id}
                onChange={(event) => choose(id, event.target.checked)}
              />
            ))}
          </div>
        )}
      </fieldset>
      {hasTeams && (
        <p className="muted small mb-0">
          Others see neither the process nor its deals, but for deals that they own. Administrators and viewers see all.
        </p>
      )}
      <ErrorNotice error={error} />
    </section>
  );
}
