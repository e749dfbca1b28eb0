import '../../../style/panel.css';
import '../design.css';
import { compareVersions, differs, type StageId, type VersionComparison } from '@ladder/core';
import { useMemo, useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { useAppDispatch } from '../../../client/hooks.ts';
import { useSession } from '../../../client/session.ts';
import { Choice } from '../../../parts/Choice.tsx';
import { ErrorNotice } from '../../../parts/ErrorNotice.tsx';
import { dayOf, shortDay } from '../../../parts/format.ts';
import { Loading } from '../../../parts/Loading.tsx';
import { PlainTable } from '../../../parts/PlainTable.tsx';
import { OfProcess } from '../OfProcess.tsx';
import { type ProcessDetail, processesApi } from '../processesApi.ts';
import { ChangedAtOnce } from './ChangedAtOnce.tsx';
import { ComparisonLadder } from './ComparisonLadder.tsx';
import { useComparedVersion } from './useComparedVersion.ts';

type Version = ProcessDetail['versions'][number];

const STATE_WORDS: Readonly<Record<Version['state'], string>> = {
  draft: 'draft',
  live: 'live',
  in_use: 'in use',
  past: 'past',
};
const STATE_LOOKS: Readonly<Record<Version['state'], string>> = {
  draft: 'flagged',
  live: 'clear',
  in_use: 'plain',
  past: 'plain',
};

const versionName = ({ number, state }: Pick<Version, 'number' | 'state'>): string =>
  state === 'draft' ? `Draft ${number}` : `v${number}`;

/** All versions of a process: who published each and when, how many deals follow it, and any two compared on one ladder. */
export const VersionsPage = () => <OfProcess>{(process) => <Versions process={process} />}</OfProcess>;

function Versions({ process }: { process: ProcessDetail }) {
  const { person } = useSession();
  return (
    <>
      <header className="page-head">
        <div>
          <div className="crumb">
            <Link to="/processes">Processes</Link> / <Link to={`/processes/${process.id}`}>{process.name}</Link>
          </div>
          <h1>Versions</h1>
        </div>
        <div className="grow" />
        {process.live && (
          <Link className="btn btn-outline-secondary" to={`/processes/${process.id}/sheet`}>
            Sheet for sellers
          </Link>
        )}
      </header>
      <div className="page-body">
        <VersionTable process={process} />
        {process.versions.length > 1 ? (
          <Compared process={process} />
        ) : (
          <p className="muted mt-3">There is one version yet, and nothing to compare it with.</p>
        )}
        {person.role === 'administrator' && <ChangedAtOnce process={process.id} />}
      </div>
    </>
  );
}

function VersionTable({ process }: { process: ProcessDetail }) {
  const { person } = useSession();
  const mayTake = person.role === 'administrator';
  return (
    <PlainTable
      heads={['Version', 'State', 'Published', 'By', 'Note', 'Open deals#', 'File', ...(mayTake ? ['As a draft'] : [])]}
    >
      {process.versions.map((version) => (
        <VersionRow key={version.id} process={process} version={version} mayTake={mayTake} />
      ))}
    </PlainTable>
  );
}

function VersionRow({ process, version, mayTake }: { process: ProcessDetail; version: Version; mayTake: boolean }) {
  const { organisation } = useSession();
  const navigate = useNavigate();
  const { take, error, isBusy } = useTakeAgain(process, () => navigate(`/processes/${process.id}`));
  const { number, state, publishedAt, publishedBy, note, openDeals } = version;
  return (
    <tr>
      <td>{versionName(version)}</td>
      <td>
        <span className={`state ${STATE_LOOKS[state]}`}>{STATE_WORDS[state]}</span>
      </td>
      <td>
        {publishedAt ? (
          shortDay(dayOf(publishedAt, organisation), organisation.today)
        ) : (
          <span className="muted">not yet</span>
        )}
      </td>
      <td>{publishedBy ?? ''}</td>
      <td className="version-note">{note ?? <span className="muted">none</span>}</td>
      <td className="num">{openDeals}</td>
      <td>
        {state !== 'draft' && (
          <a
            href={`/api/v1/processes/${process.id}/versions/${number}/file`}
            download
            aria-label={`${versionName(version)} as a file`}
          >
            .json
          </a>
        )}
      </td>
      {mayTake && (
        <td>
          {state !== 'draft' && (
            <Button
              variant="link"
              size="sm"
              disabled={isBusy}
              aria-label={`Take ${versionName(version)} as the draft`}
              onClick={() => take(number)}
            >
              {state === 'live' && !process.hasDraft ? 'Edit as a draft' : 'Take it again'}
            </Button>
          )}
          <ErrorNotice error={error} />
        </td>
      )}
    </tr>
  );
}

/** Makes a version the draft: begins one from it, or puts it in the place of what the draft says, if that is wanted. */
function useTakeAgain(process: ProcessDetail, onDone: () => void | Promise<void>) {
  const dispatch = useAppDispatch();
  const [error, setError] = useState<unknown>();
  const [isBusy, setBusy] = useState(false);
  const { getDraft, getVersion, saveDraft, beginDraft } = processesApi.endpoints;
  const replace = async (number: number) => {
    const fresh = { forceRefetch: true, subscribe: false };
    const { revision } = await dispatch(getDraft.initiate(process.id, fresh)).unwrap();
    const { document } = await dispatch(getVersion.initiate({ id: process.id, number }, { subscribe: false })).unwrap();
    await dispatch(saveDraft.initiate({ id: process.id, document, revision })).unwrap();
  };
  const take = async (number: number) => {
    if (process.hasDraft && !window.confirm(`Put v${number} in the place of what the draft says now?`)) return;
    setBusy(true);
    setError(undefined);
    try {
      if (process.hasDraft) await replace(number);
      else await dispatch(beginDraft.initiate({ id: process.id, from: number })).unwrap();
      await onDone();
    } catch (failure) {
      setError(failure);
    }
    setBusy(false);
  };
  return { take, error, isBusy };
}

/** Which two are compared stands in the address; the newest with the one before it, where nothing is said. */
function useChosen({ versions }: ProcessDetail) {
  const [search, setSearch] = useSearchParams();
  const named = (name: string) => versions.find(({ number }) => String(number) === search.get(name));
  const to = named('to') ?? versions[0];
  const from = named('from') ?? versions[versions.findIndex(({ id }) => id === to?.id) + 1] ?? versions[1];
  const choose = (name: 'from' | 'to' | 'stage', value: string) =>
    setSearch(
      (current) => {
        const next = new URLSearchParams(current);
        if (value === '') next.delete(name);
        else next.set(name, value);
        return next;
      },
      { replace: true },
    );
  return { from, to, stage: search.get('stage') as StageId | null, choose };
}

function Compared({ process }: { process: ProcessDetail }) {
  const { from, to, stage, choose } = useChosen(process);
  const [before, after] = [useComparedVersion(process.id, from), useComparedVersion(process.id, to)];
  const comparison = useMemo(
    () => (before.version && after.version ? compareVersions(before.version, after.version) : null),
    [before.version, after.version],
  );
  const options = process.versions.map((version) => ({ id: String(version.number), name: versionName(version) }));
  return (
    <section className="compared" aria-labelledby="compared">
      <header>
        <h2 id="compared">What changed</h2>
        <Choice
          label="From"
          value={String(from?.number ?? '')}
          options={options}
          onChoose={(value) => choose('from', value)}
        />
        <Choice
          label="To"
          value={String(to?.number ?? '')}
          options={options}
          onChoose={(value) => choose('to', value)}
        />
        {comparison && (
          <Choice
            label="Stage"
            none="All"
            value={stage ?? ''}
            options={comparison.stages.map(({ id, name }) => ({ id, name }))}
            onChoose={(value) => choose('stage', value)}
          />
        )}
      </header>
      <ErrorNotice error={before.error ?? after.error} />
      {!comparison && !before.error && !after.error && <Loading />}
      {comparison && <Result comparison={comparison} stage={stage} />}
    </section>
  );
}

function Result({ comparison, stage }: { comparison: VersionComparison; stage: StageId | null }) {
  const [shown, setShown] = useState<'changed' | 'all'>('changed');
  if (!differs(comparison)) return <p className="muted">They say the same.</p>;
  return (
    <>
      <ComparisonLadder comparison={comparison} stage={stage} shown={stage ? 'all' : shown} />
      {!stage && (
        <Button variant="link" size="sm" onClick={() => setShown(shown === 'all' ? 'changed' : 'all')}>
          {shown === 'all' ? 'Only what changed' : 'Show unchanged stages too'}
        </Button>
      )}
    </>
  );
}
