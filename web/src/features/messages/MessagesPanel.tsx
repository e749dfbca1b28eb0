import './messages.css';
import type { DealId, ProcessId } from '@ladder/core';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { dayOf, shortDay } from '../../parts/format.ts';
import { MessageDialog } from './MessageDialog.tsx';
import { type Message, useDropMessageMutation, useListDealMessagesQuery } from './messagesApi.ts';
import { messageNote, STATE_LOOKS, STATE_NAMES } from './messageWords.ts';

interface MessagesPanelProps {
  readonly deal: {
    readonly id: DealId;
    readonly process: { readonly id: ProcessId };
    readonly may: { readonly change: boolean };
  };
}

const SHOWN = 3;
/** States change behind the page while something is under way. */
const POLLED_MS = 4_000;

/** Messages about a deal: those to confirm first, then those that went last. */
export function MessagesPanel({ deal }: MessagesPanelProps) {
  const [isMoving, setMoving] = useState(false);
  const { data, error } = useListDealMessagesQuery(deal.id, { pollingInterval: isMoving ? POLLED_MS : 0 });
  const [isAllShown, setAllShown] = useState(false);
  const [open, setOpen] = useState<Message | 'new' | null>(null);
  const items = [...(data?.items ?? [])].sort((a, b) => rank(a) - rank(b));
  const isUnderWay = items.some(
    ({ state, subject, problem }) =>
      state === 'queued' || (state === 'to_confirm' && subject === '' && problem === null),
  );
  if (isUnderWay !== isMoving) setMoving(isUnderWay);
  return (
    <section className="messages" aria-labelledby="messages-title">
      <header>
        <h3 id="messages-title">Messages {items.length === 0 && <small className="muted">none yet</small>}</h3>
        {deal.may.change && (
          <Button variant="link" size="sm" onClick={() => setOpen('new')}>
            Write a message…
          </Button>
        )}
      </header>
      <ErrorNotice error={error} />
      <ul>
        {(isAllShown ? items : items.slice(0, SHOWN)).map((message) => (
          <MessageRow key={message.id} deal={deal} message={message} onOpen={() => setOpen(message)} />
        ))}
      </ul>
      {items.length > SHOWN && (
        <Button variant="link" size="sm" aria-expanded={isAllShown} onClick={() => setAllShown(!isAllShown)}>
          {isAllShown ? 'Fold the others' : `${items.length - SHOWN} more`}
        </Button>
      )}
      {open && <MessageDialog deal={deal} message={open === 'new' ? null : open} onClose={() => setOpen(null)} />}
    </section>
  );
}

const rank = ({ state }: Message): number => (state === 'to_confirm' ? 0 : 1);

interface MessageRowProps extends MessagesPanelProps {
  readonly message: Message;
  readonly onOpen: () => void;
}

function MessageRow({ deal, message, onOpen }: MessageRowProps) {
  const { organisation } = useSession();
  const [drop, { isLoading }] = useDropMessageMutation();
  const { state, subject, to, template, sentAt } = message;
  const note = messageNote(message, organisation.timeZone);
  const isOpen = state !== 'sent' && state !== 'dropped';
  return (
    <li>
      <div>
        <b>{subject || template || 'A message'}</b>{' '}
        <span className={`state ${STATE_LOOKS[state]}`}>{STATE_NAMES[state]}</span>
        <div className="small muted">
          {to.address && `to ${to.name || to.address}`}
          {sentAt && `, ${shortDay(dayOf(sentAt, organisation), organisation.today)}`}
          {note && ` ${note}`}
        </div>
      </div>
      <div className="message-acts">
        {deal.may.change && state === 'to_confirm' && (
          <Button size="sm" variant="outline-primary" onClick={onOpen}>
            Go over it…
          </Button>
        )}
        {deal.may.change && isOpen && (
          <Button
            size="sm"
            variant="link"
            disabled={isLoading}
            aria-label={`Do not send ${subject || template || 'it'}`}
            onClick={() => drop({ deal: deal.id, message: message.id })}
          >
            Do not send
          </Button>
        )}
        {state !== 'to_confirm' && (
          <a href={`/api/v1/deals/${deal.id}/messages/${message.id}/eml`} aria-label={`${subject} as a file`}>
            .eml
          </a>
        )}
      </div>
    </li>
  );
}
