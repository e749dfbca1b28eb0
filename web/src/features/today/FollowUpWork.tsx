import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { shortDay } from '../../parts/format.ts';
import { useChangeFollowUpMutation } from '../deals/dealsApi.ts';
import { GoOnDialog } from '../deals/GoOnDialog.tsx';
import { ReasonDialog } from '../deals/ReasonDialog.tsx';
import { DayDialog } from './DayDialog.tsx';
import type { WorkProps } from './MainWork.tsx';

type Asking = 'begin' | 'later' | 'drop' | null;

/** A closed deal whose day to be looked at again has come: gone on with as a new deal, put off, or dropped with a word. */
export function FollowUpWork({ deal, day, undo, onDone }: WorkProps & { readonly day: string }) {
  const { organisation } = useSession();
  const [change] = useChangeFollowUpMutation();
  const [asking, setAsking] = useState<Asking>(null);
  const close = () => setAsking(null);
  const restore = () => change({ deal: deal.id, body: { day } });
  const drop = async (text: string) => {
    const answer = await change({ deal: deal.id, body: { day: null, text } });
    if (!answer.error) {
      undo.offer('Follow-up dropped', restore);
      onDone();
    }
    return answer;
  };
  return (
    <div className="day-main">
      <header>
        <h3>Come back to them</h3>
        <span className="day-due">follow-up of {shortDay(day, organisation.today)}</span>
      </header>
      <p className="mb-0">{closedWords(deal, organisation.today)}</p>
      {deal.may.change && (
        <div className="day-acts">
          <Button data-act="done" onClick={() => setAsking('begin')}>
            Begin a new deal… <kbd aria-hidden>D</kbd>
          </Button>
          <Button data-act="later" variant="outline-secondary" onClick={() => setAsking('later')}>
            Later… <kbd aria-hidden>L</kbd>
          </Button>
          <Button variant="outline-secondary" onClick={() => setAsking('drop')}>
            Drop it…
          </Button>
        </div>
      )}
      {asking === 'begin' && <GoOnDialog deal={deal} onClose={close} />}
      {asking === 'later' && (
        <DayDialog
          title="Come back to it on another day"
          label="Come back on"
          day={day}
          onDay={(chosen) => change({ deal: deal.id, body: { day: chosen } })}
          onDone={onDone}
          onClose={close}
        />
      )}
      {asking === 'drop' && (
        <ReasonDialog
          title="Drop the follow-up"
          label="Why is nobody to come back to it?"
          confirm="Drop it"
          onConfirm={drop}
          onClose={close}
        />
      )}
    </div>
  );
}

function closedWords({ status, reasons }: WorkProps['deal'], today: string): string {
  if (!('outcome' in status)) return '';
  const reason = reasons.find(({ id }) => id === status.reason)?.name;
  return `Closed as ${status.state} on ${shortDay(status.day, today)}${reason ? `: ${reason}` : ''}.`;
}
