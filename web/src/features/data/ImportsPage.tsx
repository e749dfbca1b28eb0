import type { ProcessId } from '@ladder/core';
import { Options } from '../../parts/Options.tsx';
import './data.css';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useDropzone } from 'react-dropzone';
import { problemOf } from '../../client/api.ts';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { countOf, dayOf, shortDay } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { ShowMore } from '../../parts/ShowMore.tsx';
import { useListProcessesQuery } from '../processes/processesApi.ts';
import { WorkUnderWay } from '../work/WorkProgress.tsx';
import { ImportProgress } from './ImportProgress.tsx';
import {
  type ImportView,
  type Uploaded,
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
  const [chosen, setChosen] = useState<ProcessId | ''>('');
  if (!processes) return <Loading />;
  const live = processes.items.filter(({ live: version, closedToNew }) => version && !closedToNew);
  const process = chosen || live.toSorted((a, b) => b.openDeals - a.openDeals)[0]?.id;
  if (!process)
    return (
      <div className="empty">
        <h2>No process takes new deals</h2>
        <p>Publish a process first; deals are imported into its stages.</p>
      </div>
    );
  return (
    <div className="choose-file">
      <Form.Group controlId="import-process">
        <Form.Label>Into the process</Form.Label>
        <Form.Select value={process} onChange={(event) => setChosen(event.target.value as ProcessId)}>
          <Options of={live} />
        </Form.Select>
      </Form.Group>
      <DropFile process={process} onUploaded={onUploaded} />
    </div>
  );
}

function DropFile({ process, onUploaded }: { process: ProcessId; onUploaded: (uploaded: Uploaded) => void }) {
  const [upload, { error, isLoading }] = useUploadImportMutation();
  const take = async (file: File | undefined) => {
    const answer = file && (await upload({ file, process }));
    if (answer?.data) onUploaded(answer.data);
  };
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    multiple: false,
    noClick: true,
    noKeyboard: true,
    disabled: isLoading,
    onDrop: ([file]) => void take(file),
  });
  const problem = problemOf(error);
  return (
    <div {...getRootProps({ className: `drop-file ${isDragActive ? 'over' : ''} ${problem ? 'bad' : ''}` })}>
      <input {...getInputProps({ 'aria-label': 'CSV file', accept: '.csv,.tsv,.txt,text/csv' })} />
      <p>Drop a CSV file here: commas, semicolons or tabs, its first line naming the columns.</p>
      <Button variant="outline-primary" disabled={isLoading} onClick={open}>
        {isLoading ? 'Reading…' : 'Choose a file'}
      </Button>
      {problem && (
        <p className="text-held mb-0" role="alert">
          {problem.detail}
        </p>
      )}
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

const AT_WORK: readonly ImportView['state'][] = ['running', 'taking_back'];

const HEADS = ['New', 'Updated', 'Skipped', 'Not imported'];

function EarlierImports() {
  const list = useListImportsInfiniteQuery();
  const rows = list.data?.pages.flatMap(({ items }) => items) ?? [];
  if (rows.length === 0) return null;
  return (
    <section className="mt-4">
      <h2 className="mb-2">Imports so far</h2>
      <table className="plain">
        <thead>
          <tr>
            <th>File</th>
            <th>When, by</th>
            <th>State</th>
            {HEADS.map((head) => (
              <th key={head} className="num">
                {head}
              </th>
            ))}
            <th />
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <ImportRow key={row.id} row={row} />
          ))}
        </tbody>
      </table>
      <ShowMore list={list} />
    </section>
  );
}

function ImportRow({ row }: { row: ImportView }) {
  const { organisation } = useSession();
  return (
    <tr>
      <td>
        {row.fileName}
        <div className="small muted">{row.rowsTotal === null ? '' : countOf(row.rowsTotal, 'row')}</div>
      </td>
      <td>
        {shortDay(dayOf(row.uploadedAt, organisation), organisation.today)}
        <div className="small muted">{row.by}</div>
      </td>
      <td>
        {AT_WORK.includes(row.state) ? <WorkUnderWay subject={row.id} isExpected /> : STATE_WORDS[row.state]}
        {row.failure && <div className="small text-held">{row.failure}</div>}
      </td>
      <td className="num">{row.created.toLocaleString('en-GB')}</td>
      <td className="num">{row.updated}</td>
      <td className="num">{row.skipped}</td>
      <td className="num">{row.bad > 0 ? <BadRows row={row} /> : 0}</td>
      <td>{row.mayTakeBack === 'yes' && <TakeBackButton row={row} />}</td>
    </tr>
  );
}

const BadRows = ({ row }: { row: ImportView }) => (
  <a href={`/api/v1/imports/${row.id}/bad-rows.csv`} download>
    {row.bad}
  </a>
);

function TakeBackButton({ row }: { row: ImportView }) {
  const [takeBack, { error, isLoading }] = useTakeBackImportMutation();
  const ask = `Take back “${row.fileName}”? The deals it made are voided, those it changed are changed back.`;
  return (
    <>
      <Button variant="link" disabled={isLoading} onClick={() => window.confirm(ask) && takeBack(row.id)}>
        Take back
      </Button>
      <ErrorNotice error={error} />
    </>
  );
}
