import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { PersonSelect } from '../../parts/form/PersonSelect.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { shortDay } from '../../parts/format.ts';
import { useGetPeopleQuery } from '../session/sessionApi.ts';
import { type Absence, useEndAbsenceMutation, useListAbsencesQuery, useSetAbsenceMutation } from './todayApi.ts';

/** Who is away, and for how long: for oneself, or as a manager for whoever's day is shown. */
export function AwayButton({ whose }: { readonly whose: { readonly id: string; readonly name: string } }) {
  const { person, organisation } = useSession();
  const { data } = useListAbsencesQuery();
  const [isAsking, setAsking] = useState(false);
  if (!data || person.role === 'viewer') return null;
  const absence = data.items.find((one) => one.person.id === whose.id) ?? null;
  return (
    <>
      <Button variant="outline-secondary" size="sm" onClick={() => setAsking(true)}>
        {absence ? `Away ${daysOf(absence, organisation.today)}` : 'Away…'}
      </Button>
      {isAsking && <AwayDialog whose={whose} absence={absence} onClose={() => setAsking(false)} />}
    </>
  );
}

const daysOf = ({ from, to }: Absence, today: string): string =>
  from <= today ? `until ${shortDay(to, today)}` : `from ${shortDay(from, today)}`;

interface AwayDialogProps {
  readonly whose: { readonly id: string; readonly name: string };
  readonly absence: Absence | null;
  readonly onClose: () => void;
}

function AwayDialog(props: AwayDialogProps) {
  const { data } = useGetPeopleQuery();
  // A choice that is made before its options are there would be lost.
  return data ? <AwayForm {...props} people={data.items.filter(({ role }) => role !== 'viewer')} /> : null;
}

type Colleague = NonNullable<ReturnType<typeof useGetPeopleQuery>['data']>['items'][number];

function AwayForm({ whose, absence, people, onClose }: AwayDialogProps & { readonly people: readonly Colleague[] }) {
  const { person, organisation } = useSession();
  const [setAbsence] = useSetAbsenceMutation();
  const [endAbsence] = useEndAbsenceMutation();
  const isOwn = whose.id === person.id;
  const form = useBodyForm({
    begin: {
      from: absence?.from ?? organisation.today,
      to: absence?.to ?? '',
      substitute: absence?.substitute.id ?? '',
    },
    schema: (contract) => contract.people.newAbsence,
    toBody: (written) => written,
    send: (body) => setAbsence({ person: whose.id, body }),
    onDone: onClose,
    words: { substitute: 'Choose someone.' },
  });
  const back = async () => {
    const answer = await endAbsence(whose.id);
    if (!answer.error) onClose();
  };
  return (
    <FormDialog
      title={isOwn ? 'While you are away' : `While ${whose.name} is away`}
      confirm="Save"
      of={form}
      onClose={onClose}
    >
      <p>
        {isOwn ? 'What is yours stays yours.' : 'What is theirs stays theirs.'} On those days a colleague sees it on
        their own day too, and may do it; the journal tells for whom.
      </p>
      <div className="away-days">
        <TextField form={form.form} name="from" id="away-from" label="From" type="date" max={10} />
        <TextField form={form.form} name="to" id="away-to" label="Until, with that day" type="date" max={10} />
      </div>
      <PersonSelect
        form={form.form}
        name="substitute"
        id="away-substitute"
        label="Who sees to it"
        people={people.filter(({ id }) => id !== whose.id)}
      />
      {absence && (
        <Button variant="link" className="p-0" onClick={() => void back()}>
          {absence.from <= organisation.today ? 'Back already' : 'Not away after all'}
        </Button>
      )}
    </FormDialog>
  );
}
