import { useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { dayOf, shortDay } from '../../parts/format.ts';
import { useGetFeedQuery, useMakeFeedMutation, useRevokeFeedMutation } from './todayApi.ts';

/** One's own calendar feed, for whichever program shows calendars. */
export function FeedButton() {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <Button variant="outline-secondary" onClick={() => setOpen(true)}>
        Feed…
      </Button>
      {isOpen && <FeedDialog onClose={() => setOpen(false)} />}
    </>
  );
}

function FeedDialog({ onClose }: { readonly onClose: () => void }) {
  const { data: feed, error } = useGetFeedQuery();
  const [make, making] = useMakeFeedMutation();
  const [revoke, revoking] = useRevokeFeedMutation();
  const address = making.data && `${window.location.origin}${making.data.path}`;
  const isMade = feed?.madeAt != null;
  return (
    <Modal show onHide={onClose} centered aria-labelledby="feed-title">
      <Modal.Header closeButton>
        <h2 id="feed-title">Your calendar feed</h2>
      </Modal.Header>
      <Modal.Body>
        <p>
          Your steps, tasks, next actions, follow-ups and close dates, from 30 days ago to a year ahead, for any program
          that reads iCalendar. Whoever has its address can read it.
        </p>
        {address ? (
          <Form.Group controlId="feed-address">
            <Form.Label>Its address, shown this once</Form.Label>
            <Form.Control readOnly value={address} onFocus={(event) => event.target.select()} />
          </Form.Group>
        ) : (
          isMade && <Told feed={feed} />
        )}
        <ErrorNotice error={error ?? making.error ?? revoking.error} />
      </Modal.Body>
      <Modal.Footer>
        {isMade && (
          <Button
            variant="outline-secondary"
            disabled={revoking.isLoading}
            onClick={async () => {
              await revoke();
              making.reset();
            }}
          >
            Revoke it
          </Button>
        )}
        {feed && (
          <Button disabled={making.isLoading} onClick={() => make()}>
            {isMade ? 'Another address' : 'Make a feed'}
          </Button>
        )}
      </Modal.Footer>
    </Modal>
  );
}

function Told({ feed }: { readonly feed: { readonly madeAt: string | null; readonly readAt: string | null } }) {
  const { organisation } = useSession();
  const on = (instant: string) => shortDay(dayOf(instant, organisation), organisation.today);
  return (
    <p className="mb-0">
      {feed.madeAt && `Made on ${on(feed.madeAt)}`}
      {feed.readAt ? `, read last on ${on(feed.readAt)}.` : ', not read yet.'} Its address is not kept; if it is lost,
      make another.
    </p>
  );
}
