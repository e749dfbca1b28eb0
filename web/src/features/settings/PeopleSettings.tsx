import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { Loading } from '../../parts/Loading.tsx';
import { ROLE_NAMES } from '../../parts/roleNames.ts';
import { ShowMore } from '../../parts/ShowMore.tsx';
import { useGetTeamsQuery } from '../session/sessionApi.ts';
import { AccountDialog } from './AccountDialog.tsx';
import { type Account, useListAccountsInfiniteQuery } from './settingsApi.ts';

/** Everyone with an account: who they are, what they may do, and whose deals they see. */
export function PeopleSettings() {
  const { person } = useSession();
  const [find, setFind] = useState('');
  const [open, setOpen] = useState<Account | 'new' | null>(null);
  const list = useListAccountsInfiniteQuery(find);
  const { data, error } = list;
  const { data: teams } = useGetTeamsQuery();
  const accounts = data?.pages.flatMap(({ items }) => items);
  const teamNames = (ids: readonly string[]): string =>
    ids.map((id) => teams?.items.find((team) => team.id === id)?.name ?? '').join(', ');
  return (
    <>
      <div className="settings-bar">
        <Form.Control
          type="search"
          aria-label="Find a person"
          placeholder="Find a person"
          value={find}
          onChange={(event) => setFind(event.target.value)}
        />
        <Button onClick={() => setOpen('new')}>Add a person</Button>
      </div>
      <ErrorNotice error={error} />
      {!accounts && !error && <Loading />}
      {accounts?.length === 0 && <p className="muted">Nobody is called “{find}”.</p>}
      {accounts && accounts.length > 0 && (
        <table className="plain">
          <thead>
            <tr>
              <th>Name</th>
              <th>Role</th>
              <th>Teams</th>
              <th>Signs in</th>
            </tr>
          </thead>
          <tbody>
            {accounts.map((account) => (
              <tr key={account.id}>
                <td>
                  <Button variant="link" className="p-0" onClick={() => setOpen(account)}>
                    {account.name}
                  </Button>
                  {account.id === person.id && <span className="small muted"> you</span>}
                  <div className="small muted">{account.email}</div>
                </td>
                <td>{ROLE_NAMES[account.role]}</td>
                <td>{teamNames(account.teams) || <span className="muted">none</span>}</td>
                <td>{account.active ? 'yes' : <span className="state flagged">no longer</span>}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <ShowMore list={list} />
      <p className="muted small mt-3">
        Sellers see and change their teams’ deals, managers too; administrators and viewers see all, viewers change
        nothing.
      </p>
      {open && (
        <AccountDialog
          key={open === 'new' ? 'new' : open.id}
          account={open === 'new' ? null : open}
          teams={teams?.items ?? []}
          onClose={() => setOpen(null)}
        />
      )}
    </>
  );
}
