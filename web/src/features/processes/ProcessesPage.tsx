import type { endpoints } from '@ladder/contract';
import { type ProcessId, STARTING_POINT_WORDS, STARTING_POINTS } from '@ladder/core';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link, useNavigate } from 'react-router';
import type { BodyOf } from '../../client/api.ts';
import { useSession } from '../../client/session.ts';
import { DesignPages } from '../../parts/DesignPages.tsx';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { FormSelect } from '../../parts/form/FormSelect.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { countOf, dayOf, shortDay } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { PlainTable } from '../../parts/PlainTable.tsx';
import { useCountRemarksQuery } from './check/checkApi.ts';
import { FileProcessDialog } from './FileProcessDialog.tsx';
import { type ProcessSummary, useAddProcessMutation, useListProcessesQuery } from './processesApi.ts';

/** All processes: which version is live, how many open deals follow each, and whether a draft waits. */
export function ProcessesPage() {
  const { person } = useSession();
  const { data, error, isLoading } = useListProcessesQuery();
  const [isAdding, setAdding] = useState<'new' | 'file' | null>(null);
  const isAdministrator = person.role === 'administrator';
  return (
    <>
      <header className="page-head">
        <div>
          <div className="crumb">How each kind of sale is meant to run</div>
          <h1>Processes</h1>
        </div>
        <DesignPages />
        <div className="grow" />
        {isAdministrator && (
          <>
            <Button variant="outline-secondary" onClick={() => setAdding('file')}>
              From a file
            </Button>
            <Button onClick={() => setAdding('new')}>New process</Button>
          </>
        )}
      </header>
      <div className="page-body">
        {isLoading && <Loading />}
        <ErrorNotice error={error} />
        {data?.items.length === 0 && (
          <div className="empty">
            <h2>No process yet</h2>
            <p>
              {isAdministrator
                ? 'Begin with a name and one stage; everything else can be added later.'
                : 'Your administrator has not published one yet.'}
            </p>
          </div>
        )}
        {data && data.items.length > 0 && (
          <PlainTable
            heads={[
              'Process',
              'Kind',
              'Stages#',
              'Live version',
              'Open deals#',
              'Draft',
              ...(isAdministrator ? ['Design check'] : []),
            ]}
          >
            {data.items.map((process) => (
              <ProcessRow key={process.id} process={process}>
                {isAdministrator && <CheckCell process={process.id} />}
              </ProcessRow>
            ))}
          </PlainTable>
        )}
      </div>
      {isAdding === 'new' && <NewProcessDialog processes={data?.items ?? []} onClose={() => setAdding(null)} />}
      {isAdding === 'file' && <FileProcessDialog onClose={() => setAdding(null)} />}
    </>
  );
}

/** What the design check says of its draft, or of its live version. */
function CheckCell({ process }: { process: string }) {
  const { data } = useCountRemarksQuery();
  const counts = data?.items.find((one) => one.process === process);
  return (
    <td>
      {!counts && <span className="muted">…</span>}
      {counts && counts.problems + counts.warnings === 0 && <span className="muted">nothing</span>}
      {counts && counts.problems > 0 && <span className="state held">{countOf(counts.problems, 'problem')}</span>}{' '}
      {counts && counts.warnings > 0 && <span className="state flagged">{countOf(counts.warnings, 'warning')}</span>}
    </td>
  );
}

function ProcessRow({ process, children }: { process: ProcessSummary; children: React.ReactNode }) {
  const { organisation } = useSession();
  const { live, draft } = process;
  return (
    <tr>
      <td>
        <Link to={`/processes/${process.id}`} className="stage-name">
          {process.name}
        </Link>
        {process.purpose && <div className="small muted">{process.purpose}</div>}
      </td>
      <td>{process.kind === 'deal' ? 'Deals' : 'Leads'}</td>
      <td className="num">{process.stages}</td>
      <td>
        {live?.publishedAt ? (
          `v${live.number}, since ${shortDay(dayOf(live.publishedAt, organisation), organisation.today)}`
        ) : (
          <span className="muted">not published</span>
        )}
      </td>
      <td className="num">
        {process.openDeals > 0 ? (
          <Link to={`/deals?process=${process.id}`} aria-label={countOf(process.openDeals, 'open deal')}>
            {process.openDeals}
          </Link>
        ) : (
          0
        )}
      </td>
      <td>
        {draft ? <span className="state flagged">Draft {draft.number}</span> : <span className="muted">none</span>}
      </td>
      {children}
    </tr>
  );
}

/** What a process can begin with: one stage, or a starting point of ours. */
const BLANK = 'blank';
const BEGINNINGS: Readonly<Record<string, string>> = {
  [BLANK]: 'one stage of my own',
  ...Object.fromEntries(
    STARTING_POINTS.map((start) => {
      const { name, meant } = STARTING_POINT_WORDS[start];
      return [`start:${start}`, `${name}: ${meant}`];
    }),
  ),
};

type From = BodyOf<(typeof endpoints)['addProcess']>['from'];

function fromOf(chosen: string): From {
  const [as, id] = chosen.split(':');
  const start = STARTING_POINTS.find((one) => one === id);
  if (as === 'start' && start) return { as, start };
  return as === 'copy' ? { as, process: id as ProcessId } : undefined;
}

function NewProcessDialog({ processes, onClose }: { processes: readonly ProcessSummary[]; onClose: () => void }) {
  const { organisation } = useSession();
  const [addProcess] = useAddProcessMutation();
  const navigate = useNavigate();
  const process = useBodyForm({
    begin: { name: '', from: BLANK, firstStage: '' },
    schema: ({ processes: contract }) => contract.newProcess,
    toBody: ({ name, from, firstStage }) => {
      const begun = fromOf(from);
      return {
        name: name.trim(),
        kind: 'deal' as const,
        currency: organisation.currency,
        ...(begun ? { from: begun } : { firstStage: firstStage.trim() }),
      };
    },
    send: addProcess,
    onDone: ({ id }) => navigate(`/processes/${id}`),
  });
  const { form } = process;
  const copies = Object.fromEntries(processes.map(({ id, name }) => [`copy:${id}`, `a copy of ${name}`]));
  return (
    <FormDialog title="New process" confirm="Begin the draft" of={process} onClose={onClose}>
      <TextField form={form} name="name" id="process-name" label="Name" autoFocus max={200} />
      <FormSelect form={form} name="from" id="process-from" label="Begin with" names={{ ...BEGINNINGS, ...copies }} />
      {form.watch('from') === BLANK && (
        <TextField form={form} name="firstStage" id="process-first-stage" label="First stage" max={120} />
      )}
    </FormDialog>
  );
}
