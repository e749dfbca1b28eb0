import type { people, Role, Schema, TypeOf } from '@ladder/contract';
import { Form } from 'react-bootstrap';
import { type UseFormReturn, useController } from 'react-hook-form';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { FormSelect } from '../../parts/form/FormSelect.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { type Contract, useBodyForm } from '../../parts/form/useBodyForm.ts';
import { ROLE_NAMES } from '../../parts/roleNames.ts';
import { type Account, type Team, useAddPersonMutation, useChangeAccountMutation } from './settingsApi.ts';

type AccountBody = TypeOf<typeof people.accountChange>;
type NewPerson = TypeOf<typeof people.newPerson>;

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
  const save = useSaveAccount(account);
  const of = useBodyForm({ begin: toForm(account), ...save, onDone: onClose });
  const { form } = of;
  const title = account ? account.name : 'Add a person';
  return (
    <FormDialog title={title} confirm={account ? 'Save' : 'Add the person'} of={of} onClose={onClose}>
      <TextField form={form} name="name" id="account-name" label="Name" autoFocus max={200} />
      <TextField form={form} name="email" id="account-email" label="E-mail address" max={320} />
      <FormSelect form={form} name="role" id="account-role" label="Role" names={ROLE_NAMES} />
      {teams.length > 0 && <TeamChoice teams={teams} form={form} />}
      <TextField
        form={form}
        name="password"
        id="account-password"
        label={account ? 'New password, to change it' : 'Password, at least ten characters'}
        type="password"
        max={200}
      />
      {account && <Form.Check id="account-active" label="May sign in" {...form.register('active')} />}
    </FormDialog>
  );
}

/** What changes the account, or adds a new one. */
function useSaveAccount(account: Account | null) {
  const [addPerson] = useAddPersonMutation();
  const [changeAccount] = useChangeAccountMutation();
  return {
    schema: ({ people }: Contract): Schema<AccountBody> =>
      (account ? people.accountChange : people.newPerson) as Schema<AccountBody>,
    toBody: ({ name, email, active, password, ...rest }: AccountForm): AccountBody => ({
      ...rest,
      name: name.trim(),
      email: email.trim(),
      ...(account ? { active, ...(password ? { password } : {}) } : { password }),
    }),
    send: (body: AccountBody): Promise<{ data?: unknown; error?: unknown }> =>
      account ? changeAccount({ id: account.id, change: body }) : addPerson(body as NewPerson),
  };
}

function TeamChoice({ teams, form }: Pick<AccountDialogProps, 'teams'> & { form: UseFormReturn<AccountForm> }) {
  const { field } = useController({ control: form.control, name: 'teams' });
  const toggle = (team: string) =>
    field.onChange(field.value.includes(team) ? field.value.filter((one) => one !== team) : [...field.value, team]);
  return (
    <fieldset className="mb-2">
      <legend className="form-label">Teams</legend>
      {teams.map((team) => (
        <Form.Check
          key={team.id}
          id={`account-team-${team.id}`}
          label={team.name}
          checked={field.value.includes(team.id)}
          onChange={() => toggle(team.id)}
        />
      ))}
    </fieldset>
  );
}
