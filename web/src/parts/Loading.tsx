import { Spinner } from 'react-bootstrap';

/** Shown while something is fetched. */
export function Loading() {
  return (
    <div className="empty" role="status">
      <Spinner size="sm" /> Loading…
    </div>
  );
}
