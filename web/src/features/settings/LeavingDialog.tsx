import { Link } from 'react-router';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { PersonSelect } from '../../parts/form/PersonSelect.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { countOf } from '../../parts/format.ts';
import { useGetPeopleQuery } from '../session/sessionApi.ts';
import { useLongCommand } from '../work/useLongCommand.ts';
import { WorkProgress } from '../work/WorkProgress.tsx';
import { type Account, type Holdings, useGetHoldingsQuery, useLeaveMutation } from './settingsApi.ts';

interface LeavingDialogProps {
  readonly account: Account;
  readonly onClose: () => void;
}

/** Somebody leaves: all that is theirs is listed, and goes to one other, so that nothing is left behind. */
export function LeavingDialog(props: LeavingDialogProps) {
  const { data: holdings, error } = useGetHoldingsQuery(props.account.id, { refetchOnMountOrArgChange: true });
  const { data: people } = useGetPeopleQuery();
  if (error) return <ErrorNotice error={error} />;
  // A choice that is made before its options are there would be lost.
  if (!holdings || !people) return null;
  const others = people.items.filter(({ id, role }) => role !== 'viewer' && id !== props.account.id);
  return <LeavingForm {...props} holdings={holdings} people={others} />;
}

type Colleague = NonNullable<ReturnType<typeof useGetPeopleQuery>['data']>['items'][number];

interface LeavingFormProps extends LeavingDialogProps {
  readonly holdings: Holdings;
  readonly people: readonly Colleague[];
}

function LeavingForm({ account, holdings, people, onClose }: LeavingFormProps) {
  const [leave] = useLeaveMutation();
  const { send, work, isBusy } = useLongCommand(account.id, leave, onClose);
  const form = useBodyForm({
    begin: { to: '' },
    schema: (contract) => contract.people.leaving,
    toBody: (written) => written,
    send: (body) => send({ person: account.id, body }),
    words: { to: 'Choose someone.' },
  });
  return (
    <FormDialog
      title={`${account.name} leaves`}
      confirm="Hand all of it over"
      variant="danger"
      of={form}
      isBusy={isBusy}
      onClose={onClose}
    >
      <p>
        What is theirs goes to one other, and they sign in no more. Closed deals keep in the measures by whom they were
        won or lost.
      </p>
      <ul className="holdings">
        {partsOf(holdings).map((part) => (
          <li key={part}>{part}</li>
        ))}
      </ul>
      {holdings.named.length > 0 && (
        <div className="notice mb-2">
          They are named in steps of live processes. Name someone else there, and publish, first:
          <ul className="mb-0">
            {holdings.named.map(({ process, stage, step }) => (
              <li key={`${process.id} ${stage} ${step}`}>
                <Link to={`/processes/${process.id}`}>{process.name}</Link>, {stage}: {step}
              </li>
            ))}
          </ul>
        </div>
      )}
      <PersonSelect form={form.form} name="to" id="leaving-to" label="All of it goes to" people={people} />
      <WorkProgress work={work} />
    </FormDialog>
  );
}

/** All that somebody has, in words; what they have none of is not told. */
function partsOf({ openDeals, followUps, others, tasks, steps, requests, standIns }: Holdings): readonly string[] {
  const parts = [
    openDeals > 0 && `${countOf(openDeals, 'open deal')} of theirs`,
    followUps > 0 && `${countOf(followUps, 'closed deal')} to come back to`,
    tasks > 0 && countOf(tasks, 'open task'),
    steps > 0 && `${countOf(steps, 'step')} given to them`,
    others > 0 && `work on ${countOf(others, 'deal')} of others`,
    requests > 0 && `${countOf(requests, 'request')} for a waiver, which stay with their deals or are withdrawn`,
    standIns > 0 && `standing in for ${countOf(standIns, 'colleague')}`,
  ].filter((part) => part !== false);
  return parts.length > 0 ? parts : ['Nothing is theirs.'];
}
