import type { endpoints } from '@ladder/contract';
import { useState } from 'react';
import type { BodyOf } from '../../client/api.ts';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { PersonSelect } from '../../parts/form/PersonSelect.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { countOf } from '../../parts/format.ts';
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
  return (
    <FormDialog title="Hand over" confirm="Hand over" of={form} onClose={onClose}>
      <p>
        Steps and tasks: {items.length}, of {countOf(entries.length, 'deal')}. The deals stay with their owners.
      </p>
      <PersonSelect
        form={form.form}
        name="person"
        id="hand-over-person"
        label="To whom"
        people={people.filter(({ role }) => role !== 'viewer')}
      />
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
