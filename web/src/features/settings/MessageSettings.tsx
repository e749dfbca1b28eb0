import '../messages/messages.css';
import { MESSAGE_STATES, type MessageState } from '@ladder/core';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Link } from 'react-router';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { dayOf, shortDay } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { Options } from '../../parts/Options.tsx';
import { PlainTable } from '../../parts/PlainTable.tsx';
import { ShowMore } from '../../parts/ShowMore.tsx';
import {
  type Template,
  useGetStandInQuery,
  useListMessagesInfiniteQuery,
  useListTemplatesQuery,
  useSetStandInMutation,
} from '../messages/messagesApi.ts';
import { messageNote, STATE_LOOKS, STATE_NAMES } from '../messages/messageWords.ts';
import { TemplateDialog } from './TemplateDialog.tsx';

/** What messages are made of, and all that were made. */
export function MessageSettings() {
  return (
    <>
      <Templates />
      <Outbox />
    </>
  );
}

function Templates() {
  const { data, error } = useListTemplatesQuery();
  const [open, setOpen] = useState<Template | 'new' | null>(null);
  return (
    <>
      <div className="settings-bar">
        <h2>Templates</h2>
        <Button onClick={() => setOpen('new')}>Add a template</Button>
      </div>
      <ErrorNotice error={error} />
      {data?.items.length === 0 && (
        <p className="muted">
          There is none yet. Steps and arrivals prepare messages of templates; sellers begin with one.
        </p>
      )}
      {data && data.items.length > 0 && (
        <PlainTable heads={['Template', 'Used by', 'Goes to']}>
          {data.items.map((template) => (
            <tr key={template.id}>
              <td>
                <Button variant="link" className="p-0" onClick={() => setOpen(template)}>
                  {template.name}
                </Button>
                <div className="small muted">{template.subject}</div>
              </td>
              <td>{template.process?.name ?? 'all processes'}</td>
              <td>{template.to.who === 'owner' ? 'the owner' : 'the contact'}</td>
            </tr>
          ))}
        </PlainTable>
      )}
      {open && <TemplateDialog template={open === 'new' ? null : open} onClose={() => setOpen(null)} />}
    </>
  );
}

function Outbox() {
  const { organisation } = useSession();
  const [state, setState] = useState<MessageState | ''>('');
  const list = useListMessagesInfiniteQuery(state, { refetchOnMountOrArgChange: true, pollingInterval: 10_000 });
  const items = list.data?.pages.flatMap((page) => page.items);
  return (
    <>
      <div className="settings-bar mt-4">
        <h2>Outbox</h2>
        <Form.Select
          aria-label="Which messages are shown"
          value={state}
          onChange={({ target }) => setState(target.value as MessageState | '')}
        >
          <option value="">all messages</option>
          <Options of={MESSAGE_STATES.map((id) => ({ id, name: STATE_NAMES[id] }))} />
        </Form.Select>
      </div>
      <StandIn />
      <ErrorNotice error={list.error} />
      {!items && !list.error && <Loading />}
      {items?.length === 0 && <p className="muted">No message is here.</p>}
      {items && items.length > 0 && (
        <PlainTable heads={['Day', 'Message', 'To', 'State']}>
          {items.map((message) => (
            <tr key={message.id}>
              <td>{shortDay(dayOf(message.madeAt, organisation), organisation.today)}</td>
              <td>
                {message.subject || message.template}
                <div className="small muted">
                  {message.deal ? (
                    <Link to={`/deals/${message.deal.id}`}>{message.deal.name}</Link>
                  ) : (
                    'Digest of the bell'
                  )}
                </div>
              </td>
              <td>{message.to.address}</td>
              <td>
                <span className={`state ${STATE_LOOKS[message.state]}`}>{STATE_NAMES[message.state]}</span>
                <div className="small muted">{messageNote(message, organisation.timeZone)}</div>
              </td>
            </tr>
          ))}
        </PlainTable>
      )}
      <ShowMore list={list} />
    </>
  );
}

/** The stand-in for mail, which keeps what it is given here; its switch shows what happens where mail fails. */
function StandIn() {
  const { data } = useGetStandInQuery();
  const [setStandIn, { isLoading }] = useSetStandInMutation();
  if (!data) return null;
  if (data.via === 'smtp') return <p className="muted small">Messages are handed over by SMTP.</p>;
  return (
    <Form.Check
      type="switch"
      id="stand-in-fails"
      className="mb-2"
      label="Let the stand-in for mail fail: messages are tried again after 1, 2, 4, … minutes, eight times at most"
      checked={data.fails}
      disabled={isLoading}
      onChange={({ target }) => setStandIn(target.checked)}
    />
  );
}
