import type { deal as contract, TypeOf } from '@ladder/contract';
import type { DealId } from '@ladder/core';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { FormSelect } from '../../parts/form/FormSelect.tsx';
import { PersonSelect } from '../../parts/form/PersonSelect.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { countOf } from '../../parts/format.ts';
import { useGetPeopleQuery } from '../session/sessionApi.ts';
import { useReassignDealsMutation } from './dealsApi.ts';

interface OwnerDialogProps {
  readonly deals: readonly { readonly id: DealId; readonly name: string }[];
  readonly onDone?: () => void;
  readonly onClose: () => void;
}

/** Gives deals another owner, and asks what goes along (S32). */
export function OwnerDialog(props: OwnerDialogProps) {
  const { data } = useGetPeopleQuery();
  // A choice that is made before its options are there would be lost.
  return data ? <OwnerForm {...props} people={data.items.filter(({ role }) => role !== 'viewer')} /> : null;
}

type Colleague = NonNullable<ReturnType<typeof useGetPeopleQuery>['data']>['items'][number];
type Body = TypeOf<typeof contract.reassign>;

const TEAMS = { keep: 'stay in their team', owners: 'go to the new owner’s team' };
const WORK = { go: 'go to the new owner', stay: 'stay with the owner before' };
const WATCHERS = { keep: 'watch on', drop: 'watch no longer' };
const REQUESTS = { go: 'stay asked, for the new owner', stay: 'are withdrawn' };

function OwnerForm({ deals, onDone, onClose, people }: OwnerDialogProps & { readonly people: readonly Colleague[] }) {
  const [reassign] = useReassignDealsMutation();
  const form = useBodyForm({
    begin: { owner: '', team: 'keep', tasks: 'go', steps: 'go', waivers: 'go', watchers: 'keep' } as Omit<
      Body,
      'deals'
    >,
    schema: (schemas) => schemas.deal.reassign,
    toBody: (written) => ({ ...written, deals: deals.map(({ id }) => id) }),
    send: reassign,
    onDone: () => {
      onDone?.();
      onClose();
    },
    words: { owner: 'Choose someone.' },
  });
  const [only] = deals;
  return (
    <FormDialog title="Change the owner" confirm="Change the owner" of={form} onClose={onClose}>
      <p>{deals.length === 1 ? only?.name : `All or none of ${countOf(deals.length, 'deal')}.`}</p>
      <PersonSelect form={form.form} name="owner" id="new-owner" label="New owner" people={people} />
      <FormSelect form={form.form} name="team" id="owner-team" label="The deals" names={TEAMS} />
      <FormSelect form={form.form} name="tasks" id="owner-tasks" label="Open tasks of the owner before" names={WORK} />
      <FormSelect form={form.form} name="steps" id="owner-steps" label="Steps at hand" names={WORK} />
      <FormSelect form={form.form} name="watchers" id="owner-watchers" label="Those who watch" names={WATCHERS} />
      <FormSelect form={form.form} name="waivers" id="owner-waivers" label="Waivers asked for" names={REQUESTS} />
    </FormDialog>
  );
}
