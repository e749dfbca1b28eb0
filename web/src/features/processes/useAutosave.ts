import type { ProcessId } from '@ladder/core';
import { mergeDrafts, type ProcessDocument } from '@ladder/core';
import { useEffect, useRef, useState } from 'react';
import { useBeforeUnload, useBlocker } from 'react-router';
import { problemOf } from '../../client/api.ts';
import { useAppDispatch, useAppSelector, useAppStore } from '../../client/hooks.ts';
import { newKey } from '../../parts/newKey.ts';
import { draftConflicted, draftMerged, draftOf, draftSaved } from './draftSlice.ts';
import { processesApi, useSaveDraftMutation } from './processesApi.ts';

const PAUSE_MS = 700;
const LONGEST_PAUSE_MS = 60_000;

/** A save that failed, how often in a row, and after how long it is tried again. */
export interface SaveFailure {
  readonly error: unknown;
  readonly tries: number;
  readonly pauseMs: number;
}

/** Failing again and again, it is tried less and less often. */
const pauseAfter = (tries: number): number => Math.min(LONGEST_PAUSE_MS, 1_000 * 2 ** tries);

/**
 * Saves the draft by itself a moment after each change, one save after the other, each from the revision that the one
 * before it left. `saveNow` says whether everything is saved; leaving waits for it.
 */
export function useAutosave(process: ProcessId): {
  isSaving: boolean;
  failure: SaveFailure | null;
  saveNow: () => Promise<boolean>;
  /** Takes in what someone else saved. */
  takeIn: () => Promise<void>;
} {
  const { changes, save } = useAppSelector(draftOf);
  const [saveDraft, { isLoading }] = useSaveDraftMutation();
  const [failure, setFailure] = useState<SaveFailure | null>(null);
  const dispatch = useAppDispatch();
  const store = useAppStore();
  const last = useRef<Promise<void>>(Promise.resolve());

  /**
   * What someone else saved is put together with what is here; where both changed the same, that is asked. A draft that was saved
   * though its answer was lost stands on the server as it was sent: nobody else saved it.
   */
  const takeIn = async () => {
    const { data: theirs } = await dispatch(
      processesApi.endpoints.getDraft.initiate(process, { forceRefetch: true, subscribe: false }),
    );
    const { document, saved, revision } = draftOf(store.getState());
    if (!theirs || !document || !saved || theirs.revision <= revision) return;
    const base = saved as ProcessDocument;
    const put = mergeDrafts(base, document as ProcessDocument, theirs.document, {}, newKey);
    if (put.conflicts.length > 0) dispatch(draftConflicted(theirs));
    else dispatch(draftMerged({ document: put.document, theirs }));
  };
  const saveOnce = async () => {
    const draft = draftOf(store.getState());
    if (!draft.document || draft.save !== 'changed') return;
    const sent = draft.document as ProcessDocument;
    const { data, error } = await saveDraft({ id: process, document: sent, revision: draft.revision });
    if (data)
      dispatch(
        draftSaved({
          changes: draft.changes,
          revision: data.revision,
          savedAt: data.savedAt,
          document: data.document,
        }),
      );
    else if (problemOf(error)?.status === 412) await takeIn();
    const isTakenIn = problemOf(error)?.status === 412;
    setFailure((before) => (data || isTakenIn ? null : failedAgain(error, before)));
  };
  const saveNow = async () => {
    last.current = last.current.then(saveOnce);
    await last.current;
    return draftOf(store.getState()).save === 'saved';
  };

  const pause = failure?.pauseMs ?? PAUSE_MS;
  // biome-ignore lint/correctness/useExhaustiveDependencies: each change begins the pause anew
  useEffect(() => {
    if (save !== 'changed' || isLoading) return;
    const timer = setTimeout(saveNow, pause);
    return () => clearTimeout(timer);
  }, [changes, save, isLoading, pause]);
  useBeforeUnload((event) => {
    if (save === 'changed') event.preventDefault();
  });
  useBlocker(({ currentLocation, nextLocation }) => {
    if (save === 'changed' && currentLocation.pathname !== nextLocation.pathname) void saveNow();
    return false;
  });
  const takeInNext = async () => {
    last.current = last.current.then(takeIn);
    await last.current;
  };
  return { isSaving: isLoading, failure, saveNow, takeIn: takeInNext };
}

function failedAgain(error: unknown, before: SaveFailure | null): SaveFailure {
  const tries = (before?.tries ?? 0) + 1;
  return { error, tries, pauseMs: pauseAfter(tries) };
}
