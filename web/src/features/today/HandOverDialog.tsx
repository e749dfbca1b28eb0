import type { endpoints } from '@ladder/contract';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import type { BodyOf } from '../../client/api.ts';
import { boxProblem } from '../../parts/form/boxProblem.ts';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { countOf } from '../../parts/format.ts';
import { Options } from '../../parts/Options.tsx';
import { useGetPeopleQuery } from '../session/sessionApi.ts';
import { type DayEntry, useHandOverMutation } from './todayApi.ts';

interface HandOverDialogProps {
  readonly entries: readonly DayEntry[];
  readonly onDone: () => void;
  readonly onClose: () => void;
}

/** Passes the steps and tasks of the chosen deals to one person. */
export function HandOverDialog(props: HandOverDialogProps) {
  const { data: people } = useGetPeopleQuery();
  // A choice that is made before its options are there would be lost.
  return people ? <HandOverTo {...props} people={people.items} /> : null;
}

type Handed = BodyOf<(typeof endpoints)['handOver']>['items'][number];
type Colleague = NonNullable<ReturnType<typeof useGetPeopleQuery>['data']>['items'][number];

function HandOverTo({
  entries,
  onDone,
  onClose,
  people,
}: HandOverDialogProps & { readonly people: readonly Colleague[] }) {
  const [handOver] = useHandOverMutation();
  const [items] = useState(() => entries.flatMap(itemsOf).slice(0, MOST));
  const form = useBodyForm({
    begin: { person: '' },
    schema: (contract) => contract.today.handOver,
    toBody: ({ person }) => ({ person, items }),
    send: handOver,
    onDone: () => {
      onDone();
      onClose();
    },
    words: { person: 'Choose someone.' },
  });
  const wrong = boxProblem(form.form, 'person');
  return (
    <FormDialog title="Hand over" confirm="Hand over" of={form} onClose={onClose}>
      <p>
        Steps and tasks: {items.length}, of {countOf(entries.length, 'deal')}. The deals stay with their owners.
      </p>
      <Form.Group controlId="hand-over-person">
        <Form.Label>To whom</Form.Label>
        <Form.Select isInvalid={wrong !== undefined} {...form.form.register('person')}>
          <option value="">Choose…</option>
          <Options of={people.filter(({ role }) => role !== 'viewer')} />
        </Form.Select>
        <Form.Control.Feedback type="invalid">{wrong}</Form.Control.Feedback>
      </Form.Group>
    </FormDialog>
  );
}

/** Most of it can be handed over at once. */
const MOST = 100;

const itemsOf = ({ deal, item, others }: DayEntry): readonly Handed[] =>
  [item, ...others].flatMap((one): readonly Handed[] => {
    if (one.kind === 'step') return [{ kind: 'step', deal: deal.id, run: one.run }];
    return one.kind === 'task' ? [{ kind: 'task', deal: deal.id, task: one.task }] : [];
  });
