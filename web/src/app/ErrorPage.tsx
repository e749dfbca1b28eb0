import { Link, useRouteError } from 'react-router';

/** A page that is not there, or one that failed while it was drawn. */
export function ErrorPage() {
  const error = useRouteError();
  return (
    <main className="empty">
      <h2>{error ? 'This page could not be shown' : 'There is no such page'}</h2>
      <p>{error instanceof Error ? error.message : 'The address may be old, or was typed wrongly.'}</p>
      <Link to="/deals">Go to the deals</Link>
    </main>
  );
}
