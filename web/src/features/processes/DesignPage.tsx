import '../../style/panel.css';
import './design.css';
import { catalogueOf, type Field, type ProcessDocument } from '@ladder/core';
import { useCallback, useEffect, useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link, useParams } from 'react-router';
import { problemOf } from '../../client/api.ts';
import { useAppDispatch, useAppSelector } from '../../client/hooks.ts';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { countOf, dayOf, shortDay } from '../../parts/format.ts';
import { KeysDialog } from '../../parts/KeysDialog.tsx';
import { Loading } from '../../parts/Loading.tsx';
import { WorkUnderWay } from '../work/WorkProgress.tsx';
import { ConflictDialog } from './ConflictDialog.tsx';
import { DesignCheckBox } from './check/DesignCheckBox.tsx';
import { useDesignCheck } from './check/useDesignCheck.ts';
import { DesignPanel } from './DesignPanel.tsx';
import { DesignSheet } from './DesignSheet.tsx';
import { DesignContext, type DesignView } from './designContext.ts';
import {
  describeEditProblem,
  draftEdited,
  draftOf,
  draftOpened,
  draftRedone,
  draftUndone,
  problemDismissed,
} from './draftSlice.ts';
import { PublishDialog } from './PublishDialog.tsx';
import {
  type Draft,
  type ProcessDetail,
  useBeginDraftMutation,
  useDropDraftMutation,
  useGetDraftQuery,
  useGetProcessQuery,
} from './processesApi.ts';
import { type SaveFailure, useAutosave } from './useAutosave.ts';
import { DESIGN_KEYS, useDesignKeys } from './useDesignKeys.ts';
import { usePresence } from './usePresence.ts';
import { useSelection } from './useSelection.ts';

/** The design sheet: a draft to edit for an administrator, else the live version to read. */
export function DesignPage() {
  const { process: id = '' } = useParams();
  const { person } = useSession();
  const { currentData: process, error } = useGetProcessQuery(id);
  const edits = person.role === 'administrator' && process?.hasDraft === true;
  const { currentData: draft, error: draftError } = useGetDraftQuery(id, {
    skip: !edits,
    refetchOnMountOrArgChange: true,
  });
  const isMissing = !process || (edits && !draft);
  if (isMissing && (error || draftError))
    return (
      <div className="page-body">
        <ErrorNotice error={error ?? draftError} />
      </div>
    );
  if (isMissing) return <Loading />;
  return edits && draft ? (
    <EditedDraft key={draft.version} process={process} draft={draft} />
  ) : (
    <LiveVersion process={process} />
  );
}

function LiveVersion({ process }: { process: ProcessDetail }) {
  const { person, organisation } = useSession();
  const [beginDraft, { error, isLoading }] = useBeginDraftMutation();
  const { live } = process;
  if (!live)
    return (
      <div className="empty">
        <h2>Nothing is published yet</h2>
      </div>
    );
  return (
    <Frame
      process={process}
      document={live.document}
      fields={live.fields}
      edit={null}
      undo={null}
      badge={<span className="state clear">Version {live.version.number}, live</span>}
      note={`${countOf(live.version.openDeals, 'open deal')} ${live.version.openDeals === 1 ? 'follows' : 'follow'} it${live.version.publishedAt ? ` · published ${shortDay(dayOf(live.version.publishedAt, organisation), organisation.today)}` : ''}`}
      notice={<ErrorNotice error={error} />}
      actions={
        person.role === 'administrator' && (
          <Button data-act="edit" disabled={isLoading} onClick={() => beginDraft({ id: process.id })}>
            Edit as a draft
          </Button>
        )
      }
    />
  );
}

function EditedDraft({ process, draft }: { process: ProcessDetail; draft: Draft }) {
  const dispatch = useAppDispatch();
  const state = useAppSelector(draftOf);
  const isOpened = state.version === draft.version && state.document !== null;
  // What is being edited is never replaced by a copy that is fetched again: what others saved is taken in part by part.
  useEffect(() => {
    if (!isOpened)
      dispatch(
        draftOpened({
          process: process.id,
          version: draft.version,
          document: draft.document,
          revision: draft.revision,
          savedAt: draft.savedAt,
        }),
      );
  }, [dispatch, process.id, draft, isOpened]);
  if (!isOpened) return <Loading />;
  return <OpenedDraft process={process} draft={draft} document={state.document as ProcessDocument} />;
}

interface OpenedDraftProps {
  readonly process: ProcessDetail;
  readonly draft: Draft;
  readonly document: ProcessDocument;
}

function OpenedDraft({ process, draft, document }: OpenedDraftProps) {
  const dispatch = useAppDispatch();
  const saving = useAutosave(process.id);
  const others = usePresence(process.id, saving.takeIn);
  return (
    <Frame
      process={process}
      document={document}
      fields={draft.fields}
      edit={(edit) => dispatch(draftEdited(edit))}
      undo={() => dispatch(draftUndone())}
      badge={<span className="state flagged">Draft {draft.number}</span>}
      note={<DraftNote process={process} isSaving={saving.isSaving} others={others} />}
      notice={
        <>
          <DraftNotices failure={saving.failure} saveNow={saving.saveNow} />
          <ConflictDialog fields={draft.fields} />
        </>
      }
      actions={<DraftActions process={process} number={draft.number} saveNow={saving.saveNow} />}
    />
  );
}

const clockTime = (instant: string): string =>
  new Date(instant).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });

/** Beside the draft: what is live, and whether everything is saved. */
function DraftNote({
  process,
  isSaving,
  others,
}: {
  process: ProcessDetail;
  isSaving: boolean;
  others: readonly string[];
}) {
  const { save, savedAt } = useAppSelector(draftOf);
  const live = process.live?.version;
  const liveWords = live
    ? `v${live.number} is live · ${countOf(live.openDeals, 'open deal')} ${live.openDeals === 1 ? 'follows' : 'follow'} it · `
    : 'not published yet · ';
  const saveWords = { conflict: 'not saved', changed: 'changed', saved: `saved ${savedAt ? clockTime(savedAt) : ''}` };
  return (
    <span role="status">
      {liveWords}
      {isSaving && save !== 'conflict' ? 'saving…' : saveWords[save]}
      {others.length > 0 && (
        <b>
          {' '}
          · {others.join(' and ')} {others.length === 1 ? 'has' : 'have'} it open too
        </b>
      )}
    </span>
  );
}

type Saving = ReturnType<typeof useAutosave>;

/** What went wrong with saving, or with the last edit. */
function DraftNotices({ failure, saveNow }: Pick<Saving, 'failure' | 'saveNow'>) {
  const dispatch = useAppDispatch();
  const { save, problem } = useAppSelector(draftOf);
  return (
    <>
      {save === 'changed' && failure && <SaveNotice failure={failure} saveNow={saveNow} />}
      {problem && (
        <div className="notice bad" role="alert">
          {describeEditProblem(problem)}{' '}
          <Button variant="link" onClick={() => dispatch(problemDismissed())}>
            All right
          </Button>
        </div>
      )}
    </>
  );
}

interface DraftActionsProps extends Pick<Saving, 'saveNow'> {
  readonly process: ProcessDetail;
  readonly number: number;
}

function DraftActions({ process, number, saveNow }: DraftActionsProps) {
  const dispatch = useAppDispatch();
  const { save, past, future } = useAppSelector(draftOf);
  const [dropDraft] = useDropDraftMutation();
  const [isPublishing, setPublishing] = useState(false);
  const publish = async () => {
    if (await saveNow()) setPublishing(true);
  };
  const throwAway = () =>
    window.confirm('Throw this draft away? The live version stays as it is.') && dropDraft(process.id);
  return (
    <>
      <Button
        variant="outline-secondary"
        data-act="undo"
        disabled={past.length === 0}
        onClick={() => dispatch(draftUndone())}
      >
        Undo
      </Button>
      <Button
        variant="outline-secondary"
        data-act="redo"
        disabled={future.length === 0}
        onClick={() => dispatch(draftRedone())}
      >
        Redo
      </Button>
      {number > 1 && (
        <Button variant="outline-secondary" onClick={throwAway}>
          Throw away
        </Button>
      )}
      <Button data-act="publish" disabled={save === 'conflict'} onClick={publish}>
        Publish…
      </Button>
      {isPublishing && <PublishDialog process={process} onClose={() => setPublishing(false)} />}
    </>
  );
}

/** Says that the last changes are not saved, and when that is tried again. */
function SaveNotice({ failure, saveNow }: { failure: SaveFailure; saveNow: () => Promise<boolean> }) {
  const problem = problemOf(failure.error);
  return (
    <div className="notice bad" role="alert">
      Your last changes are not saved. {problem?.detail ?? problem?.title} It is tried again in{' '}
      {countOf(Math.round(failure.pauseMs / 1_000), 'second')}.{' '}
      <Button variant="link" onClick={saveNow}>
        Try now
      </Button>
    </div>
  );
}

interface FrameProps extends Pick<DesignView, 'edit' | 'undo'> {
  readonly process: ProcessDetail;
  readonly document: ProcessDocument;
  readonly fields: readonly Field[];
  readonly badge: React.ReactNode;
  readonly note: React.ReactNode;
  readonly notice: React.ReactNode;
  readonly actions: React.ReactNode;
}

function Frame({ process, document, fields, edit, undo, badge, note, notice, actions }: FrameProps) {
  const [selection, select] = useSelection(document);
  const { person } = useSession();
  const isAdministrator = person.role === 'administrator';
  const [isHelp, setHelp] = useState(false);
  const onHelp = useCallback(() => setHelp(true), []);
  useDesignKeys({ document, selection, onSelect: select, onHelp });
  const found = useDesignCheck(process.id, document, fields, isAdministrator ? 'checks' : 'reads');
  return (
    <DesignContext
      value={{
        document,
        catalogue: catalogueOf(fields),
        reasons: process.reasons.filter(({ withdrawn }) => withdrawn === 'no'),
        edit,
        undo,
        check: found.check,
      }}
    >
      <header className="page-head">
        <div>
          <div className="crumb">
            <Link to="/processes">Processes</Link> / {process.name}
          </div>
          <h1>{process.name}</h1>
        </div>
        {badge}
        <div className="head-note muted small">{note}</div>
        <Link className="btn btn-outline-secondary" data-act="versions" to={`/processes/${process.id}/versions`}>
          Versions
        </Link>
        {actions}
      </header>
      <div className="beside-panel design-work">
        <div className="design-sheet">
          <WorkUnderWay subject={process.id} />
          {notice}
          <DesignSheet
            selection={selection}
            onSelect={select}
            onHelp={onHelp}
            check={isAdministrator && <DesignCheckBox process={process.id} found={found} onSelect={select} />}
          />
        </div>
        <DesignPanel process={process} selection={selection} onSelect={select} />
      </div>
      {isHelp && <KeysDialog keys={DESIGN_KEYS} onClose={() => setHelp(false)} />}
    </DesignContext>
  );
}
