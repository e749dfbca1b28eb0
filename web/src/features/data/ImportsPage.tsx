import './data.css';
import { useEffect, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useDropzone } from 'react-dropzone';
import { api, problemOf } from '../../client/api.ts';
import { useAppDispatch } from '../../client/hooks.ts';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { countOf, dayOf, shortDay } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { ShowMore } from '../../parts/ShowMore.tsx';
import { useListProcessesQuery } from '../processes/processesApi.ts';
import { ImportProgress } from './ImportProgress.tsx';
import {
  type ImportView,
  type Uploaded,
  useGetImportQuery,
  useListImportsInfiniteQuery,
  useTakeBackImportMutation,
  useUploadImportMutation,
} from './importsApi.ts';
import { MatchColumns } from './MatchColumns.tsx';

type Step =
  | { readonly kind: 'choose' }
  | { readonly kind: 'match'; readonly uploaded: Uploaded }
  | { readonly kind: 'run'; readonly id: string };

/** Bringing deals in from a CSV file: upload, match, look, import; and taking an import back. */
export function ImportsPage() {
  const { person } = useSession();
  const [step, setStep] = useState<Step>({ kind: 'choose' });
  if (person.role !== 'administrator')
    return (
      <div className="empty">
        <h2>Data is for administrators</h2>
      </div>
    );
  return (
    <>
      <header className="page-head">
        <div>
          <div className="crumb">Data</div>
          <h1>Import deals</h1>
        </div>
      </header>
      <div className="page-body">
        {step.kind === 'choose' && <ChooseFile onUploaded={(uploaded) => setStep({ kind: 'match', uploaded })} />}
        {step.kind === 'match' && (
          <MatchColumns
            key={step.uploaded.import.id}
            uploaded={step.uploaded}
            onStarted={(id) => setStep({ kind: 'run', id })}
            onCancel={() => setStep({ kind: 'choose' })}
          />
        )}
        {step.kind === 'run' && <ImportProgress id={step.id} onAgain={() => setStep({ kind: 'choose' })} />}
        {step.kind !== 'match' && <EarlierImports />}
      </div>
    </>
  );
}

function ChooseFile({ onUploaded }: { onUploaded: (uploaded: Uploaded) => void }) {
  const { data: processes } = useListProcessesQuery();
  const [upload, { error, isLoading }] = useUploadImportMutation();
  const [chosen, setChosen] = useState('');
  const live = processes?.items.filter(({ live: version, closedToNew }) => version && !closedToNew) ?? [];
  const process = chosen || live.toSorted((a, b) => b.openDeals - a.openDeals)[0]?.id || '';
  const take = async (file: File | undefined) => {
    if (!file) return;
    const answer = await upload({ file, process });
    if (answer.data) onUploaded(answer.data);
  };
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    multiple: false,
    noClick: true,
    noKeyboard: true,
    disabled: isLoading || process === '',
    onDrop: ([file]) => void take(file),
  });
  if (!processes) return <Loading />;
  if (live.length === 0)
    return (
      <div className="empty">
        <h2>No process takes new deals</h2>
        <p>Publish a process first; deals are imported into its stages.</p>
      </div>
    );
  const problem = problemOf(error);
  return (
    <div className="choose-file">
      <Form.Group controlId="import-process">
        <Form.Label>Into the process</Form.Label>
        <Form.Select value={process} onChange={(event) => setChosen(event.target.value)}>
          {live.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <div {...getRootProps({ className: `drop-file ${isDragActive ? 'over' : ''} ${problem ? 'bad' : ''}` })}>
        <input {...getInputProps({ 'aria-label': 'CSV file', accept: '.csv,.tsv,.txt,text/csv' })} />
        <p>Drop a CSV file here: commas, semicolons or tabs, its first line naming the columns.</p>
        <Button variant="outline-primary" disabled={isLoading || process === ''} onClick={open}>
          {isLoading ? 'Reading…' : 'Choose a file'}
        </Button>
        {problem && (
          <p className="text-held mb-0" role="alert">
            {problem.detail}
          </p>
        )}
      </div>
    </div>
  );
}

const STATE_WORDS: Readonly<Record<ImportView['state'], string>> = {
  uploaded: 'not run',
  running: 'running',
  done: 'done',
  failed: 'failed',
  taking_back: 'being taken back',
  taken_back: 'taken back',
};

function EarlierImports() {
  const list = useListImportsInfiniteQuery();
  const { organisation } = useSession();
  const [takeBack, { error, isLoading, originalArgs }] = useTakeBackImportMutation();
  const rows = list.data?.pages.flatMap(({ items }) => items) ?? [];
  if (rows.length === 0) return null;
  return (
    <section className="mt-4">
      <h2 className="mb-2">Imports so far</h2>
      <ErrorNotice error={error} />
      <table className="plain">
        <thead>
          <tr>
            <th>File</th>
            <th>When, by</th>
            <th>State</th>
            <th className="num">New</th>
            <th className="num">Updated</th>
            <th className="num">Skipped</th>
            <th className="num">Not imported</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.id}>
              <td>
                {row.fileName}
                <div className="small muted">{row.rowsTotal === null ? '' : countOf(row.rowsTotal, 'row')}</div>
              </td>
              <td>
                {shortDay(dayOf(row.uploadedAt, organisation), organisation.today)}
                <div className="small muted">{row.by}</div>
              </td>
              <td>
                {row.state === 'taking_back' ? <TakingBack id={row.id} /> : STATE_WORDS[row.state]}
                {row.failure && <div className="small text-held">{row.failure}</div>}
              </td>
              <td className="num">{row.created.toLocaleString('en')}</td>
              <td className="num">{row.updated}</td>
              <td className="num">{row.skipped}</td>
              <td className="num">
                {row.bad > 0 ? (
                  <a href={`/api/v1/imports/${row.id}/bad-rows.csv`} download>
                    {row.bad}
                  </a>
                ) : (
                  0
                )}
              </td>
              <td>
                {row.mayTakeBack === 'yes' && (
                  <Button
                    variant="link"
                    disabled={isLoading && originalArgs === row.id}
                    onClick={() =>
                      window.confirm(
                        `Take back “${row.fileName}”? The deals it made are voided, those it changed are changed back.`,
                      ) && takeBack(row.id)
                    }
                  >
                    Take back
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <ShowMore list={list} />
    </section>
  );
}

const POLL_MS = 700;

/** How far taking an import back is; when it is over, everything that counts deals is out of date. */
function TakingBack({ id }: { id: string }) {
  const dispatch = useAppDispatch();
  const { data } = useGetImportQuery(id, { pollingInterval: POLL_MS });
  const isOver = data !== undefined && data.state !== 'taking_back';
  useEffect(() => {
    if (isOver) dispatch(api.util.invalidateTags(['Import', 'Deals', 'Deal', 'Process', 'Party']));
  }, [isOver, dispatch]);
  const total = (data?.created ?? 0) + (data?.updated ?? 0);
  return (
    <span role="status">
      being taken back
      {data && `, ${data.takenBack.toLocaleString('en-GB')} of ${countOf(total, 'deal')}`}
    </span>
  );
}
