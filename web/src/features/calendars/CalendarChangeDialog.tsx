import { Button, Modal } from 'react-bootstrap';
import { Link } from 'react-router';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { DialogEnd } from '../../parts/form/DialogEnd.tsx';
import { countOf, shortDay } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { PlainTable } from '../../parts/PlainTable.tsx';
import { useLongCommand } from '../work/useLongCommand.ts';
import { WorkProgress } from '../work/WorkProgress.tsx';
import type { Work } from '../work/workApi.ts';
import { type AskedChange, type CalendarEffect, useGetCalendarEffectQuery } from './calendarsApi.ts';

interface CalendarChangeDialogProps {
  readonly title: string;
  readonly confirm: string;
  readonly asked: AskedChange;
  /** Makes the change. */
  readonly change: () => Promise<{ readonly data?: Work; readonly error?: unknown }>;
  readonly onDone: () => void;
  readonly onClose: () => void;
}

/** Shows which days of open deals a change would move, and makes it. */
export function CalendarChangeDialog({ title, confirm, asked, change, onDone, onClose }: CalendarChangeDialogProps) {
  const { data: effect, error: unseen } = useGetCalendarEffectQuery(asked);
  const { send, work, error, isBusy } = useLongCommand<null>('calendars', change, onDone);
  return (
    <Modal show onHide={onClose} centered scrollable aria-labelledby="calendar-change">
      <Modal.Header closeButton>
        <h2 id="calendar-change">{title}</h2>
      </Modal.Header>
      <Modal.Body>
        <ErrorNotice error={unseen} />
        {!effect && !unseen && <Loading />}
        {effect && <Moved effect={effect} />}
        <ErrorNotice error={error} />
        <WorkProgress work={work} />
      </Modal.Body>
      <DialogEnd onCancel={onClose}>
        <Button disabled={!effect || isBusy} onClick={() => void send(null)}>
          {confirm}
        </Button>
      </DialogEnd>
    </Modal>
  );
}

const PARTS = { visit: 'Move on by', run: 'Step', task: 'Task' } as const;

function Moved({ effect: { moveOn, steps, tasks, first } }: { effect: CalendarEffect }) {
  const { organisation } = useSession();
  const all = moveOn + steps + tasks;
  if (all === 0)
    return <p className="mb-0">No day of an open deal moves. What is begun from now on is counted by it.</p>;
  return (
    <>
      <p>
        Of open deals <b>{countOf(moveOn, 'move-on day')}</b>, <b>{countOf(steps, 'due day')}</b> of steps and{' '}
        <b>{countOf(tasks, 'due day')}</b> of tasks move. Days set by hand stay, and so does what is due today or was.
      </p>
      <PlainTable heads={['Deal', 'What', 'Now', 'Then']}>
        {first.map(({ deal, part, name, before, after }) => (
          <tr key={`${deal.id} ${part} ${name} ${before}`}>
            <td>
              <Link to={`/deals/${deal.id}`} target="_blank">
                {deal.name}
              </Link>
            </td>
            <td>
              <span className="muted">{PARTS[part]}</span> {name}
            </td>
            <td className="text-nowrap">{shortDay(before, organisation.today)}</td>
            <td className="text-nowrap">{shortDay(after, organisation.today)}</td>
          </tr>
        ))}
      </PlainTable>
      {all > first.length && <p className="muted small mb-0">These are the first {first.length}.</p>}
    </>
  );
}
