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

interface AccountForm {
  readonly name: string;
  readonly email: string;
  readonly role: Role;
  readonly teams: readonly string[];
  readonly active: boolean;
  readonly password: string;
}

const toForm = (account: Account | null): AccountForm => ({
  name: account?.name ?? '',
  email: account?.email ?? '',
  role: account?.role ?? 'seller',
  teams: account?.teams ?? [],
  active: account?.active ?? true,
  password: '',
});

/** Who a person is, what they may do and how they sign in. */
export function AccountDialog({ account, teams, onClose }: AccountDialogProps) {
  const [form, setForm] = useState(() => toForm(account));
  const { save, error, isLoading } = useSaveAccount(account);
  const set = (made: Partial<AccountForm>) => setForm((old) => ({ ...old, ...made }));
  const submit = async () => {
    if (await save(form)) onClose();
  };
  return (
    <FormDialog
      title={account ? account.name : 'Add a person'}
      confirm={account ? 'Save' : 'Add the person'}
      isBusy={isLoading}
      error={error}
      onSubmit={submit}
      onClose={onClose}
    >
      <Basics form={form} set={set} problem={problemOf(error)} />
      {teams.length > 0 && <TeamChoice teams={teams} form={form} set={set} />}
      <TextField
        id="account-password"
        label={account ? 'New password, to change it' : 'Password, at least ten characters'}
        type="password"
        max={200}
        value={form.password}
        problem={problemAt(problemOf(error), '/password')}
        onChange={(password) => set({ password })}
      />
      {account && (
        <Form.Check
          id="account-active"
          label="May sign in"
          checked={form.active}
          onChange={(event) => set({ active: event.target.checked })}
        />
      )}
    </FormDialog>
  );
}

/** Changes the account, or adds a new one; tells whether it was done. */
function useSaveAccount(account: Account | null) {
  const [addPerson, adding] = useAddPersonMutation();
  const [changeAccount, changing] = useChangeAccountMutation();
  const { error, isLoading } = account ? changing : adding;
  const save = async ({ name, email, active, password, ...rest }: AccountForm): Promise<boolean> => {
    const basics = { ...rest, name: name.trim(), email: email.trim() };
    const answer = account
      ? await changeAccount({ id: account.id, change: { ...basics, active, ...(password ? { password } : {}) } })
      : await addPerson({ ...basics, password });
    return answer.data !== undefined;
  };
  return { save, error, isLoading };
}

interface PartProps {
  readonly form: AccountForm;
  readonly set: (made: Partial<AccountForm>) => void;
}

function Basics({ form, set, problem }: PartProps & { readonly problem: ReturnType<typeof problemOf> }) {
  return (
    <>
      <TextField
        id="account-name"
        label="Name"
        autoFocus
        max={200}
        value={form.name}
        problem={problemAt(problem, '/name')}
        onChange={(name) => set({ name })}
      />
      <TextField
        id="account-email"
        label="E-mail address"
        max={320}
        value={form.email}
        problem={problemAt(problem, '/email')}
        onChange={(email) => set({ email })}
      />
      <SelectField
        id="account-role"
        label="Role"
        value={form.role}
        names={ROLE_NAMES}
        problem={problemAt(problem, '/role')}
        onChange={(role) => set({ role })}
      />
    </>
  );
}

function TeamChoice({ teams, form, set }: PartProps & Pick<AccountDialogProps, 'teams'>) {
  const toggle = (team: string) =>
    set({ teams: form.teams.includes(team) ? form.teams.filter((one) => one !== team) : [...form.teams, team] });
  return (
    <fieldset className="mb-2">
      <legend className="form-label">Teams</legend>
      {teams.map((team) => (
        <Form.Check
          key={team.id}
          id={`account-team-${team.id}`}
          label={team.name}
          checked={form.teams.includes(team.id)}
          onChange={() => toggle(team.id)}
        />
      ))}
    </fieldset>
  );
}
