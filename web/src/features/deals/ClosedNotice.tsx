import { isMoney, outcomeOf } from '@ladder/core';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { shortDay, shortValue } from '../../parts/format.ts';
import { type DealDetail, useChangeFollowUpMutation, useReopenDealMutation } from './dealsApi.ts';
import { GoOnDialog } from './GoOnDialog.tsx';
import { ReasonDialog } from './ReasonDialog.tsx';

/** How a deal closed, and when it is looked at again: of a closed deal that day alone can be changed. */
export function ClosedNotice({ deal }: { deal: DealDetail }) {
  const { organisation } = useSession();
  const [asking, setAsking] = useState<'follow_up' | 'reopen' | 'go_on' | null>(null);
  const { status } = deal;
  if (status.state === 'open') return null;
  if (status.state === 'voided')
    return <div className="notice mb-3">This deal is voided: it counts in no measure. Its journal stays.</div>;
  const name = outcomeOf(deal.document, status.outcome)?.name ?? status.outcome;
  const reason = deal.reasons.find(({ id }) => id === status.reason)?.name;
  return (
    <div className="notice mb-3">
      <b>Closed as {name.toLowerCase()}</b> on {shortDay(status.day, organisation.today)}
      <FinalWords deal={deal} />. {reason && `Reason: ${reason}. `}Its facts are read-only; notes and calls can still be
      written down.
      {status.followUp && ` Come back to it on ${shortDay(status.followUp, organisation.today)}.`}
      {deal.may.change && (
        <Button variant="link" size="sm" onClick={() => setAsking('follow_up')}>
          {status.followUp ? 'Change that day' : 'Set a day to come back to it'}
        </Button>
      )}
      {deal.may.change && (
        <Button variant="link" size="sm" onClick={() => setAsking('go_on')}>
          Begin a new deal from it…
        </Button>
      )}
      {deal.may.reopen && (
        <Button variant="link" size="sm" onClick={() => setAsking('reopen')}>
          Reopen it…
        </Button>
      )}
      {asking === 'follow_up' && (
        <FollowUpDialog deal={deal} followUp={status.followUp} onClose={() => setAsking(null)} />
      )}
      {asking === 'go_on' && <GoOnDialog deal={deal} onClose={() => setAsking(null)} />}
      {asking === 'reopen' && <ReopenDialog deal={deal} onClose={() => setAsking(null)} />}
    </div>
  );
}

/** What a won deal came to, beside what had been expected of it. */
function FinalWords({ deal }: { deal: DealDetail }) {
  const { organisation } = useSession();
  const { status, values } = deal;
  if (status.state === 'open' || status.state === 'voided' || !status.estimate) return null;
  const { estimate } = status;
  const final = isMoney(values.value) ? values.value : null;
  const agreed = typeof values.close_date === 'string' ? values.close_date : status.day;
  const was = estimate.value && estimate.value.minor !== final?.minor ? shortValue(estimate.value) : null;
  const expected = estimate.day === null || estimate.day === agreed ? null : shortDay(estimate.day, organisation.today);
  return (
    <>
      {agreed !== status.day && `, agreed on ${shortDay(agreed, organisation.today)}`}
      {expected !== null && ` (expected ${expected})`}
      {final && ` for ${shortValue(final)}`}
      {was !== null && ` (expected ${was})`}
    </>
  );
}

function ReopenDialog({ deal, onClose }: { deal: DealDetail; onClose: () => void }) {
  const [reopenDeal] = useReopenDealMutation();
  return (
    <ReasonDialog
      title="Reopen this deal"
      label="Why does it go on? It begins its last stage anew; its closing counts no longer."
      confirm="Reopen it"
      onConfirm={(text) => reopenDeal({ deal: deal.id, body: { text } })}
      onClose={onClose}
    />
  );
}

interface FollowUpDialogProps {
  readonly deal: DealDetail;
  readonly followUp: string | null;
  readonly onClose: () => void;
}

function FollowUpDialog({ deal, followUp, onClose }: FollowUpDialogProps) {
  const [changeFollowUp] = useChangeFollowUpMutation();
  const day = useBodyForm({
    begin: { day: followUp ?? '' },
    schema: (contract) => contract.deal.followUp,
    toBody: (written) => ({ day: written.day === '' ? null : written.day }),
    send: (body) => changeFollowUp({ deal: deal.id, body }),
    onDone: onClose,
  });
  return (
    <FormDialog title="Come back to it" confirm="Save the day" of={day} onClose={onClose}>
      <TextField
        form={day.form}
        name="day"
        id="follow-up-day"
        label="On the day (empty for none)"
        type="date"
        autoFocus
        max={10}
      />
    </FormDialog>
  );
}
