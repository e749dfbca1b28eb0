import { ITEM_NAMES, itemTitle } from '@ladder/core';
import { type ReactNode, useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { Link } from 'react-router';
import { problemOf } from '../../client/api.ts';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { shortDay } from '../../parts/format.ts';
import { useChangeFollowUpMutation, useEditDealMutation } from '../deals/dealsApi.ts';
import { PutOffDialog } from '../deals/PutOffDialog.tsx';
import { PutTaskOffDialog } from '../deals/PutTaskOffDialog.tsx';
import { DayDialog } from './DayDialog.tsx';
import type { CalendarEntry } from './todayApi.ts';

type Open =
  | { readonly as: 'told'; readonly entry: CalendarEntry }
  /** The words that putting it off asks for, the day chosen or not. */
  | { readonly as: 'asked'; readonly entry: CalendarEntry; readonly day: string };

export interface CalendarMove {
  readonly move: (entry: CalendarEntry, day: string) => void;
  readonly open: (entry: CalendarEntry) => void;
  /** What came of the last move, for those who do not see it. */
  readonly said: string;
  readonly dialog: ReactNode;
}

/** Moves what is due to another day: steps and tasks with a reason, all else at once. */
export function useCalendarMove(): CalendarMove {
  const { organisation } = useSession();
  const [open, setOpen] = useState<Open | null>(null);
  const [error, setError] = useState<unknown>();
  const [said, setSaid] = useState('');
  const setDay = useSetDay();
  const close = () => setOpen(null);
  const move = async (entry: CalendarEntry, day: string) => {
    const { kind } = entry.item;
    if (kind === 'step' || kind === 'task') return setOpen({ as: 'asked', entry, day });
    const answer = await setDay(entry, day);
    setError(answer.error);
    const problem = problemOf(answer.error);
    setSaid(
      problem ? '' : `${itemTitle(entry.item)} of ${entry.deal.name} is on ${shortDay(day, organisation.today)} now.`,
    );
  };
  const dialog = (
    <>
      {error !== undefined && (
        <div className="calendar-problem">
          <ErrorNotice error={error} />
        </div>
      )}
      {open?.as === 'told' && (
        <TellMore
          entry={open.entry}
          onOther={() => setOpen({ as: 'asked', entry: open.entry, day: open.entry.item.dueDay })}
          onClose={close}
        />
      )}
      {open?.as === 'asked' && <AskDay {...open} onClose={close} />}
    </>
  );
  return { move: (entry, day) => void move(entry, day), open: (entry) => setOpen({ as: 'told', entry }), said, dialog };
}

/** How the day of what asks for no reason is set. */
function useSetDay() {
  const [editDeal] = useEditDealMutation();
  const [changeFollowUp] = useChangeFollowUpMutation();
  return ({ deal, item }: CalendarEntry, day: string): Promise<{ readonly error?: unknown }> => {
    if (item.kind === 'follow_up') return changeFollowUp({ deal: deal.id, body: { day } });
    const field = item.kind === 'close_date' ? 'close_date' : 'next_action_day';
    return editDeal({ deal: deal.id, body: { changes: [{ field, saw: item.dueDay, value: day }] } });
  };
}

interface AskDayProps {
  readonly entry: CalendarEntry;
  readonly day: string;
  readonly onClose: () => void;
}

function AskDay({ entry, day, onClose }: AskDayProps) {
  const setDay = useSetDay();
  const { deal, item } = entry;
  switch (item.kind) {
    case 'step':
      return (
        <PutOffDialog
          deal={deal.id}
          run={{ seq: item.run, name: item.name, dueDay: item.dueDay }}
          day={day}
          onClose={onClose}
        />
      );
    case 'task':
      return <PutTaskOffDialog deal={deal.id} task={{ ...item, seq: item.task }} day={day} onClose={onClose} />;
    case 'next_action':
    case 'follow_up':
    case 'close_date':
      return (
        <DayDialog
          title={`${itemTitle(item)}: another day`}
          label="On"
          day={day}
          onDay={(chosen) => setDay(entry, chosen)}
          onDone={() => undefined}
          onClose={onClose}
        />
      );
  }
}

interface TellMoreProps {
  readonly entry: CalendarEntry;
  readonly onOther: () => void;
  readonly onClose: () => void;
}

function TellMore({ entry, onOther, onClose }: TellMoreProps) {
  const { organisation } = useSession();
  const { deal, item } = entry;
  const time = item.kind === 'task' && item.dueTime ? ` at ${item.dueTime}` : '';
  return (
    <Modal show onHide={onClose} centered aria-labelledby="due-title">
      <Modal.Header closeButton>
        <h2 id="due-title">{itemTitle(item)}</h2>
      </Modal.Header>
      <Modal.Body>
        <p className="mb-1">
          {ITEM_NAMES[item.kind]} on {shortDay(item.dueDay, organisation.today)}
          {time}
        </p>
        <p className="mb-0 muted">
          {deal.name}, {deal.status === 'open' ? deal.stage : deal.status}
        </p>
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-secondary" onClick={onOther}>
          Another day…
        </Button>
        <Link className="btn btn-primary" to={`/deals/${deal.id}`}>
          Open the deal
        </Link>
      </Modal.Footer>
    </Modal>
  );
}
