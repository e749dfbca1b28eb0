import type { Role } from '@ladder/contract';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { problemAt, problemOf } from '../../client/api.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';
import { ROLE_NAMES } from '../../parts/roleNames.ts';
import { SelectField } from '../../parts/SelectField.tsx';
import { TextField } from '../../parts/TextField.tsx';
import { type Account, type Team, useAddPersonMutation, useChangeAccountMutation } from './settingsApi.ts';

interface AccountDialogProps {
  /** The account that is changed; null begins a new one. */
  readonly account: Account | null;
  readonly teams: readonly Team[];
  readonly onClose: () => void;
}

/** Who a person is, what they may do and how they sign in. */
export function AccountDialog({ account, teams, onClose }: AccountDialogProps) {
  const [addPerson, adding] = useAddPersonMutation();
  const [changeAccount, changing] = useChangeAccountMutation();
  const [name, setName] = useState(account?.name ?? '');
  const [email, setEmail] = useState(account?.email ?? '');
  const [role, setRole] = useState<Role>(account?.role ?? 'seller');
  const [chosen, setChosen] = useState<readonly string[]>(account?.teams ?? []);
  const [active, setActive] = useState(account?.active ?? true);
  const [password, setPassword] = useState('');
  const { error, isLoading } = account ? changing : adding;
  const problem = problemOf(error);
  const submit = async () => {
    const basics = { name: name.trim(), email: email.trim(), role, teams: chosen };
    const answer = account
      ? await changeAccount({ id: account.id, change: { ...basics, active, ...(password ? { password } : {}) } })
      : await addPerson({ ...basics, password });
    if (answer.data) onClose();
  };
  const toggle = (team: string) =>
    setChosen((old) => (old.includes(team) ? old.filter((one) => one !== team) : [...old, team]));
  return (
    <FormDialog
      title={account ? account.name : 'Add a person'}
      confirm={account ? 'Save' : 'Add the person'}
      isBusy={isLoading}
      error={error}
      onSubmit={submit}
      onClose={onClose}
    >
      <TextField
        id="account-name"
        label="Name"
        autoFocus
        max={200}
        value={name}
        problem={problemAt(problem, '/name')}
        onChange={setName}
      />
      <TextField
        id="account-email"
        label="E-mail address"
        max={320}
        value={email}
        problem={problemAt(problem, '/email')}
        onChange={setEmail}
      />
      <SelectField
        id="account-role"
        label="Role"
        value={role}
        names={ROLE_NAMES}
        problem={problemAt(problem, '/role')}
        onChange={setRole}
      />
      {teams.length > 0 && (
        <fieldset className="mb-2">
          <legend className="form-label">Teams</legend>
          {teams.map((team) => (
            <Form.Check
              key={team.id}
              id={`account-team-${team.id}`}
              label={team.name}
              checked={chosen.includes(team.id)}
              onChange={() => toggle(team.id)}
            />
          ))}
        </fieldset>
      )}
      <TextField
        id="account-password"
        label={account ? 'New password, to change it' : 'Password, at least ten characters'}
        type="password"
        max={200}
        value={password}
        problem={problemAt(problem, '/password')}
        onChange={setPassword}
      />
      {account && (
        <Form.Check
          id="account-active"
          label="May sign in"
          checked={active}
          onChange={(event) => setActive(event.target.checked)}
        />
      )}
    </FormDialog>
  );
}
