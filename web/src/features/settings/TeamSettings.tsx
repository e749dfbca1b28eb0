import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { problemAt, problemOf } from '../../client/api.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { FormDialog } from '../../parts/FormDialog.tsx';
import { Loading } from '../../parts/Loading.tsx';
import { TextField } from '../../parts/TextField.tsx';
import { useGetTeamsQuery } from '../session/sessionApi.ts';
import { type Team, useAddTeamMutation, useRenameTeamMutation } from './settingsApi.ts';

/** Teams own deals; their sellers and managers see them. */
export function TeamSettings() {
  const { data: teams, error } = useGetTeamsQuery();
  const [open, setOpen] = useState<Team | 'new' | null>(null);
  return (
    <>
      <div className="settings-bar">
        <p className="muted small mb-0">A deal belongs to a team; the team’s sellers and managers see it.</p>
        <Button onClick={() => setOpen('new')}>Add a team</Button>
      </div>
      <ErrorNotice error={error} />
      {!teams && !error && <Loading />}
      {teams?.items.length === 0 && (
        <p className="muted">There is no team yet. Sellers see the deals of their teams.</p>
      )}
      {teams && teams.items.length > 0 && (
        <table className="plain">
          <thead>
            <tr>
              <th>Team</th>
            </tr>
          </thead>
          <tbody>
            {teams.items.map((team) => (
              <tr key={team.id}>
                <td>
                  <Button variant="link" className="p-0" onClick={() => setOpen(team)}>
                    {team.name}
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {open && <TeamDialog team={open === 'new' ? null : open} onClose={() => setOpen(null)} />}
    </>
  );
}

function TeamDialog({ team, onClose }: { team: Team | null; onClose: () => void }) {
  const [addTeam, adding] = useAddTeamMutation();
  const [renameTeam, renaming] = useRenameTeamMutation();
  const [name, setName] = useState(team?.name ?? '');
  const { error, isLoading } = team ? renaming : adding;
  const submit = async () => {
    const answer = team ? await renameTeam({ id: team.id, name: name.trim() }) : await addTeam(name.trim());
    if (answer.data) onClose();
  };
  return (
    <FormDialog
      title={team ? `Rename ${team.name}` : 'Add a team'}
      confirm={team ? 'Rename' : 'Add the team'}
      isBusy={isLoading}
      error={error}
      onSubmit={submit}
      onClose={onClose}
    >
      <TextField
        id="team-name"
        label="Name"
        autoFocus
        max={200}
        value={name}
        problem={problemAt(problemOf(error), '/name')}
        onChange={setName}
      />
    </FormDialog>
  );
}
