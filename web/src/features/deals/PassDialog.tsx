import { Form } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { boxProblem } from '../../parts/form/boxProblem.ts';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { Options } from '../../parts/Options.tsx';
import { useGetPeopleQuery } from '../session/sessionApi.ts';
import { type DealDetail, type StepAtHand, usePassStepMutation } from './dealsApi.ts';

type Colleague = NonNullable<ReturnType<typeof useGetPeopleQuery>['data']>['items'][number];

interface PassDialogProps {
  readonly deal: DealDetail;
  readonly run: StepAtHand;
  readonly onClose: () => void;
}

/** Whose the step is from now on: one's own, or a colleague's who may change the deal. */
export function PassDialog(props: PassDialogProps) {
  const { data: people } = useGetPeopleQuery();
  // A choice that is made before its options are there would be lost.
  return people ? <PassTo {...props} people={people.items} /> : null;
}

function PassTo({ deal, run, onClose, people }: PassDialogProps & { readonly people: readonly Colleague[] }) {
  const { person: self } = useSession();
  const [pass] = usePassStepMutation();
  const form = useBodyForm({
    begin: { person: run.person?.id === self.id ? '' : self.id },
    schema: (contract) => contract.deal.passing,
    toBody: ({ person }) => ({ person }),
    send: (body) => pass({ deal: deal.id, run: run.seq, body }),
    onDone: onClose,
    words: { person: 'Choose someone.' },
  });
  const { team, owner } = deal.values;
  const offered = people.filter(
    ({ id, role, teams }) =>
      role === 'administrator' || (role !== 'viewer' && (id === owner || teams.includes(String(team)))),
  );
  const wrong = boxProblem(form.form, 'person');
  return (
    <FormDialog
      title={`${run.name}: who does it`}
      confirm={form.form.watch('person') === self.id ? 'Take it' : 'Pass it on'}
      of={form}
      onClose={onClose}
    >
      <Form.Group controlId="pass-person">
        <Form.Label>Who does it</Form.Label>
        <Form.Select isInvalid={wrong !== undefined} {...form.form.register('person')}>
          <option value="">Choose…</option>
          <Options of={offered.map(({ id, name }) => ({ id, name: id === self.id ? `${name} (you)` : name }))} />
        </Form.Select>
        <Form.Control.Feedback type="invalid">{wrong}</Form.Control.Feedback>
      </Form.Group>
    </FormDialog>
  );
}
