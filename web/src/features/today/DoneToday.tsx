import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { Link } from 'react-router';
import { useSession } from '../../client/session.ts';
import { Loading } from '../../parts/Loading.tsx';
import { type DayArguments, useListDoneQuery } from './todayApi.ts';

/** How much was done today; pressing it tells what. */
export function DoneToday({ count, asked }: { readonly count: number; readonly asked: DayArguments }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <Button variant="link" size="sm" className="p-0 fw-semibold" disabled={count === 0} onClick={() => setOpen(true)}>
        {count} done today
      </Button>
      {isOpen && <DoneDialog asked={asked} onClose={() => setOpen(false)} />}
    </>
  );
}

function DoneDialog({ asked, onClose }: { readonly asked: DayArguments; readonly onClose: () => void }) {
  const { organisation } = useSession();
  const { data } = useListDoneQuery(asked, { refetchOnMountOrArgChange: true });
  const timeOf = (at: string) =>
    new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit', timeZone: organisation.timeZone });
  return (
    <Modal show onHide={onClose} centered aria-labelledby="done-title">
      <Modal.Header closeButton>
        <h2 id="done-title">Done today</h2>
      </Modal.Header>
      <Modal.Body>
        {!data && <Loading />}
        <ul className="day-others">
          {data?.items.map(({ deal, what, how, at }) => (
            <li key={`${deal.id} ${at} ${what}`}>
              {timeOf(at)} <b>{what || 'A task whose words were erased'}</b>: {how},{' '}
              <Link to={`/deals/${deal.id}`}>{deal.name}</Link>
            </li>
          ))}
        </ul>
      </Modal.Body>
    </Modal>
  );
}
