import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { Loading } from '../../parts/Loading.tsx';
import { PlainTable } from '../../parts/PlainTable.tsx';
import { ROLE_NAMES } from '../../parts/roleNames.ts';
import { ShowMore } from '../../parts/ShowMore.tsx';
import { useGetTeamsQuery } from '../session/sessionApi.ts';
import { AccountDialog } from './AccountDialog.tsx';
import { LeavingDialog } from './LeavingDialog.tsx';
import { type Account, type Team, useListAccountsInfiniteQuery } from './settingsApi.ts';

/** Everyone with an account: who they are, what they may do, and whose deals they see. */
export function PeopleSettings() {
  const [find, setFind] = useState('');
  const [open, setOpen] = useState<Account | 'new' | null>(null);
  const [leaver, setLeaver] = useState<Account | null>(null);
  const { data: teams } = useGetTeamsQuery();
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
      <Accounts find={find} teams={teams?.items ?? []} onOpen={setOpen} onLeave={setLeaver} />
      <p className="muted small mt-3">
        Sellers see and change their teams’ deals, managers too; administrators and viewers see all, viewers change
        nothing.
      </p>
      {leaver && <LeavingDialog account={leaver} onClose={() => setLeaver(null)} />}
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

interface AccountsProps {
  readonly find: string;
  readonly teams: readonly Team[];
  readonly onOpen: (account: Account) => void;
  readonly onLeave: (account: Account) => void;
}

function Accounts({ find, teams, onOpen, onLeave }: AccountsProps) {
  const list = useListAccountsInfiniteQuery(find);
  const accounts = list.data?.pages.flatMap(({ items }) => items);
  if (!accounts) return list.error ? <ErrorNotice error={list.error} /> : <Loading />;
  if (accounts.length === 0) return <p className="muted">Nobody is called “{find}”.</p>;
  return (
    <>
      <PlainTable heads={['Name', 'Role', 'Teams', 'Signs in', '']}>
        {accounts.map((account) => (
          <AccountRow
            key={account.id}
            account={account}
            teams={teams}
            onOpen={() => onOpen(account)}
            onLeave={() => onLeave(account)}
          />
        ))}
      </PlainTable>
      <ShowMore list={list} />
    </>
  );
}

interface AccountRowProps {
  readonly account: Account;
  readonly teams: readonly Team[];
  readonly onOpen: () => void;
  readonly onLeave: () => void;
}

function AccountRow({ account, teams, onOpen, onLeave }: AccountRowProps) {
  const { person } = useSession();
  const names = account.teams.map((id) => teams.find((team) => team.id === id)?.name ?? '').join(', ');
  return (
    <tr>
      <td>
        <Button variant="link" className="p-0" onClick={onOpen}>
          {account.name}
        </Button>
        {account.id === person.id && <span className="small muted"> you</span>}
        <div className="small muted">{account.email}</div>
      </td>
      <td>{ROLE_NAMES[account.role]}</td>
      <td>{names || <span className="muted">none</span>}</td>
      <td>{account.active ? 'yes' : <span className="state flagged">no longer</span>}</td>
      <td className="text-end">
        {account.active && account.id !== person.id && (
          <Button variant="link" size="sm" aria-label={`${account.name} leaves`} onClick={onLeave}>
            Leaves…
          </Button>
        )}
      </td>
    </tr>
  );
}
