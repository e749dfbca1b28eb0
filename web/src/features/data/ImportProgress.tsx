import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { countOf } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { WorkUnderWay } from '../work/WorkProgress.tsx';
import { type ImportView, useGetImportQuery } from './importsApi.ts';

/** How far an import is, and what came of it. */
export function ImportProgress({ id, onAgain }: { id: string; onAgain: () => void }) {
  const { data } = useGetImportQuery(id);
  if (!data) return <Loading />;
  const isRunning = data.state === 'running';
  return (
    <section className="card import-progress" aria-labelledby="import-title">
      <h2 id="import-title">{data.fileName}</h2>
      <WorkUnderWay subject={id} isExpected={isRunning} />
      {!isRunning && <Outcome of={data} />}
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

function Outcome({ of: { state, created, updated, skipped, bad, failure } }: { of: ImportView }) {
  switch (state) {
    case 'failed':
      return (
        <p className="text-held" role="alert">
          Nothing was imported. {failure}
        </p>
      );
    case 'done':
      return (
        <p role="status">
          <b>{countOf(created, 'deal')} new</b>, {updated} updated, {skipped} skipped, {bad} not imported.
        </p>
      );
    case 'taken_back':
      return <p role="status">Taken back.</p>;
    default:
      return <p role="status">Stopped. Nothing was imported.</p>;
  }
}
