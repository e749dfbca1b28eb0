import { outcomeOf } from '@ladder/core';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { problemAt, problemOf } from '../../client/api.ts';
import { useSession } from '../../client/session.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';
import { shortDay } from '../../parts/format.ts';
import { TextField } from '../../parts/TextField.tsx';
import { type DealDetail, useChangeFollowUpMutation } from './dealsApi.ts';

/** How a deal closed, and when it is looked at again: of a closed deal that day alone can be changed. */
export function ClosedNotice({ deal }: { deal: DealDetail }) {
  const { organisation } = useSession();
  const [isAsking, setAsking] = useState(false);
  const { status } = deal;
  if (status.state === 'open') return null;
  if (status.state === 'voided')
    return <div className="notice">This deal is voided: it counts in no measure. Its journal stays.</div>;
  const name = outcomeOf(deal.document, status.outcome)?.name ?? status.outcome;
  const reason = deal.reasons.find(({ id }) => id === status.reason)?.name;
  return (
    <div className="notice">
      <b>Closed as {name.toLowerCase()}</b> on {shortDay(status.day, organisation.today)}
      {reason && `, ${reason}`}. Its facts are read-only; notes and calls can still be written down.
      {status.followUp && ` Come back to it on ${shortDay(status.followUp, organisation.today)}.`}
      {deal.may.change && (
        <Button variant="link" size="sm" onClick={() => setAsking(true)}>
          {status.followUp ? 'Change that day' : 'Set a day to come back to it'}
        </Button>
      )}
      {isAsking && <FollowUpDialog deal={deal} followUp={status.followUp} onClose={() => setAsking(false)} />}
    </div>
  );
}

interface FollowUpDialogProps {
  readonly deal: DealDetail;
  readonly followUp: string | null;
  readonly onClose: () => void;
}

function FollowUpDialog({ deal, followUp, onClose }: FollowUpDialogProps) {
  const [changeFollowUp, { error, isLoading }] = useChangeFollowUpMutation();
  const [day, setDay] = useState(followUp ?? '');
  const submit = async () => {
    const answer = await changeFollowUp({ deal: deal.id, body: { day: day === '' ? null : day } });
    if (answer.data) onClose();
  };
  return (
    <FormDialog
      title="Come back to it"
      confirm="Save the day"
      isBusy={isLoading}
      error={error}
      onSubmit={submit}
      onClose={onClose}
    >
      <TextField
        id="follow-up-day"
        label="On the day (empty for none)"
        type="date"
        autoFocus
        max={10}
        value={day}
        problem={problemAt(problemOf(error), '/day')}
        onChange={setDay}
      />
    </FormDialog>
  );
}
