import type { ProcessDocument } from '@ladder/core';
import { useEffect, useRef } from 'react';
import { useBeforeUnload, useBlocker } from 'react-router';
import { problemOf } from '../../app/api.ts';
import { useAppDispatch, useAppSelector } from '../../app/hooks.ts';
import { draftConflicted, draftSaved } from './draftSlice.ts';
import { useSaveDraftMutation } from './processesApi.ts';

const PAUSE_MS = 700;

/** Saves the draft by itself a moment after each change; a failure is tried again with the next, and leaving waits for it. */
export function useAutosave(process: string): { isSaving: boolean; error: unknown; saveNow: () => Promise<void> } {
  const { document, revision, changes, save } = useAppSelector((state) => state.draft);
  const [saveDraft, { isLoading, error }] = useSaveDraftMutation();
  const dispatch = useAppDispatch();
  const running = useRef<Promise<void> | null>(null);

  const saveOnce = async (current: ProcessDocument) => {
    const answer = await saveDraft({ id: process, document: current, revision });
    if (answer.data) dispatch(draftSaved({ changes, revision: answer.data.revision, savedAt: answer.data.savedAt }));
    else if (problemOf(answer.error)?.status === 412) dispatch(draftConflicted());
  };
  const saveNow = async () => {
    await running.current;
    if (!document || save !== 'changed') return;
    running.current = saveOnce(document as ProcessDocument);
    await running.current;
    running.current = null;
  };

  useEffect(() => {
    if (save !== 'changed' || isLoading) return;
    const timer = setTimeout(saveNow, PAUSE_MS);
    return () => clearTimeout(timer);
  });
  useBeforeUnload((event) => {
    if (save === 'changed') event.preventDefault();
  });
  useBlocker(({ currentLocation, nextLocation }) => {
    if (save === 'changed' && currentLocation.pathname !== nextLocation.pathname) void saveNow();
    return false;
  });
  return { isSaving: isLoading, error, saveNow };
}
