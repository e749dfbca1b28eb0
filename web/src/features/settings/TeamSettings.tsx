import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { Loading } from '../../parts/Loading.tsx';
import { PlainTable } from '../../parts/PlainTable.tsx';
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
        <PlainTable heads={['Team']}>
          {teams.items.map((team) => (
            <tr key={team.id}>
              <td>
                <Button variant="link" className="p-0" onClick={() => setOpen(team)}>
                  {team.name}
                </Button>
              </td>
            </tr>
          ))}
        </PlainTable>
      )}
      {open && <TeamDialog team={open === 'new' ? null : open} onClose={() => setOpen(null)} />}
    </>
  );
}

function TeamDialog({ team, onClose }: { team: Team | null; onClose: () => void }) {
  const [addTeam] = useAddTeamMutation();
  const [renameTeam] = useRenameTeamMutation();
  const form = useBodyForm({
    begin: { name: team?.name ?? '' },
    schema: ({ people }) => people.newTeam,
    toBody: ({ name }) => ({ name: name.trim() }),
    send: ({ name }): Promise<{ data?: Team; error?: unknown }> =>
      team ? renameTeam({ id: team.id, name }) : addTeam(name),
    onDone: onClose,
  });
  const title = team ? `Rename ${team.name}` : 'Add a team';
  return (
    <FormDialog title={title} confirm={team ? 'Rename' : 'Add the team'} of={form} onClose={onClose}>
      <TextField form={form.form} name="name" id="team-name" label="Name" autoFocus max={200} />
    </FormDialog>
  );
}
