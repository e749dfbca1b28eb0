import type { TypeOf, tasks } from '@ladder/contract';
import { Form } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { boxProblem } from '../../parts/form/boxProblem.ts';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { Options } from '../../parts/Options.tsx';
import { useGetPeopleQuery } from '../session/sessionApi.ts';
import { type DealDetail, type StepAtHand, usePassStepMutation } from './dealsApi.ts';
import { type Task, usePassTaskMutation } from './tasksApi.ts';

type Colleague = NonNullable<ReturnType<typeof useGetPeopleQuery>['data']>['items'][number];
type Sent = Promise<{ readonly error?: unknown }>;

interface Passing {
  readonly deal: DealDetail;
  readonly onClose: () => void;
}

/** Whose a step is from now on: one's own, or a colleague's who may change the deal. */
export function PassStepDialog({ run, ...passing }: Passing & { readonly run: StepAtHand }) {
  const [pass] = usePassStepMutation();
  const send = (person: string | null) => pass({ deal: passing.deal.id, run: run.seq, body: { person: person ?? '' } });
  return <PassDialog {...passing} name={run.name} holder={run.person?.id ?? null} nobody="no" send={send} />;
}

/** The same of a task, which may be nobody's. */
export function PassTaskDialog({ task, ...passing }: Passing & { readonly task: Task }) {
  const [pass] = usePassTaskMutation();
  const send = (person: string | null) => pass({ deal: passing.deal.id, task: task.seq, body: { person } });
  return <PassDialog {...passing} name={task.title} holder={task.person?.id ?? null} nobody="allowed" send={send} />;
}

interface PassDialogProps extends Passing {
  readonly name: string;
  /** Who has it now. */
  readonly holder: string | null;
  readonly nobody: 'no' | 'allowed';
  readonly send: (person: string | null) => Sent;
}

function PassDialog(props: PassDialogProps) {
  const { data: people } = useGetPeopleQuery();
  // A choice that is made before its options are there would be lost.
  return people ? <PassTo {...props} people={people.items} /> : null;
}

const NOBODY = 'nobody';

function PassTo({
  deal,
  name,
  holder,
  nobody,
  send,
  onClose,
  people,
}: PassDialogProps & { readonly people: readonly Colleague[] }) {
  const { person: self } = useSession();
  const form = useBodyForm({
    begin: { person: holder === self.id ? '' : self.id },
    schema: (contract) => contract.tasks.passing,
    toBody: ({ person }): TypeOf<typeof tasks.passing> => ({ person: person === NOBODY ? null : person }),
    send: ({ person }) => send(person),
    onDone: onClose,
    words: { person: 'Choose someone.' },
  });
  const offered = peopleFor(deal, people).map(({ id, name: called }) => ({
    id,
    name: id === self.id ? `${called} (you)` : called,
  }));
  const wrong = boxProblem(form.form, 'person');
  return (
    <FormDialog
      title={`${name}: who does it`}
      confirm={form.form.watch('person') === self.id ? 'Take it' : 'Pass it on'}
      of={form}
      onClose={onClose}
    >
      <Form.Group controlId="pass-person">
        <Form.Label>Who does it</Form.Label>
        <Form.Select isInvalid={wrong !== undefined} {...form.form.register('person')}>
          <option value="">Choose…</option>
          <Options of={nobody === 'allowed' ? [...offered, { id: NOBODY, name: 'Nobody yet' }] : offered} />
        </Form.Select>
        <Form.Control.Feedback type="invalid">{wrong}</Form.Control.Feedback>
      </Form.Group>
    </FormDialog>
  );
}

/** Those who may change the deal. */
const peopleFor = ({ values: { team, owner } }: DealDetail, people: readonly Colleague[]): readonly Colleague[] =>
  people.filter(
    ({ id, role, teams }) =>
      role === 'administrator' || (role !== 'viewer' && (id === owner || teams.includes(String(team)))),
  );
