import { useEffect, useState } from 'react';
import { Button, ProgressBar } from 'react-bootstrap';
import { Link } from 'react-router';
import { api } from '../../client/api.ts';
import { useAppDispatch } from '../../client/hooks.ts';
import { countOf } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { useGetImportQuery } from './importsApi.ts';

const POLL_MS = 700;

/** How far an import is, and what came of it. */
export function ImportProgress({ id, onAgain }: { id: string; onAgain: () => void }) {
  const dispatch = useAppDispatch();
  const [isOver, setOver] = useState(false);
  const { data } = useGetImportQuery(id, { pollingInterval: isOver ? 0 : POLL_MS });
  const isRunning = data?.state === 'running';
  const state = data?.state;
  // When it ends, the list of imports below and everything that counts deals are out of date.
  useEffect(() => {
    if (state === undefined || state === 'running') return;
    setOver(true);
    dispatch(api.util.invalidateTags(['Import', 'Deals', 'Process', 'Party']));
  }, [state, dispatch]);
  if (!data) return <Loading />;
  const total = data.rowsTotal ?? 0;
  return (
    <section className="card import-progress" aria-labelledby="import-title">
      <h2 id="import-title">{data.fileName}</h2>
      {isRunning && (
        <>
          <p role="status">
            {data.rowsRead.toLocaleString('en-GB')} of {countOf(total, 'row')} read. You can leave this page; the import
            goes on.
          </p>
          <ProgressBar now={total === 0 ? 0 : (data.rowsRead / total) * 100} aria-label="Rows read" />
        </>
      )}
      {data.state === 'failed' && (
        <p className="text-held" role="alert">
          Nothing was imported. {data.failure}
        </p>
      )}
      {data.state === 'done' && (
        <p role="status">
          <b>{countOf(data.created, 'deal')} new</b>, {data.updated} updated, {data.skipped} skipped, {data.bad} not
          imported.
        </p>
      )}
      {data.state === 'taken_back' && <p role="status">Taken back.</p>}
      {!isRunning && (
        <div className="d-flex gap-2">
          {data.bad > 0 && (
            <a className="btn btn-outline-secondary" href={`/api/v1/imports/${id}/bad-rows.csv`} download>
              Download the rows not imported
            </a>
          )}
          {data.created > 0 && (
            <Link className="btn btn-outline-secondary" to="/deals">
              See the deals
            </Link>
          )}
          <Button onClick={onAgain}>Import another file</Button>
        </div>
      )}
    </section>
  );
}
