import { skipToken } from '@reduxjs/toolkit/query/react';
import { useEffect, useRef } from 'react';
import { api } from '../../client/api.ts';
import { useAppDispatch } from '../../client/hooks.ts';
import { useSession } from '../../client/session.ts';
import { useLatestWorkQuery, type Work } from './workApi.ts';

const POLL_MS = 600;

/** What a long work may have changed. */
const CHANGED = [
  'Import',
  'Deals',
  'Deal',
  'Process',
  'Draft',
  'Party',
  'Rates',
  'People',
  'Today',
  'Bell',
  'Fields',
  'FieldUses',
  'Calendars',
] as const;

interface Followed {
  /** What is worked on. */
  readonly subject: string;
  /** The work that was begun from here, which may be over before it is first looked at. */
  readonly begun?: Work | undefined;
  /** What is shown says that it runs; so it is fetched anew where the work is over. */
  readonly isExpected?: boolean;
  readonly onEnd?: (work: Work) => void;
}

/** The newest work with a subject, looked at again while it runs; once it ends, what it may have changed is fetched anew. */
export function useWork({ subject, begun, isExpected = false, onEnd }: Followed): Work | null {
  const dispatch = useAppDispatch();
  const followed = useRef<string | null>(null);
  // Only administrators begin long work, and see it.
  const { person } = useSession();
  const { data, refetch } = useLatestWorkQuery(person.role === 'administrator' ? subject : skipToken);
  const work = newerOf(data ?? null, begun);
  if (work?.state === 'running') followed.current = work.id;
  if (begun && begun.id === work?.id) followed.current ??= begun.id;
  const isRunning = work?.state === 'running';
  useEffect(() => {
    if (!isRunning) return;
    const timer = setInterval(() => void refetch(), POLL_MS);
    return () => clearInterval(timer);
  }, [isRunning, refetch]);
  useEffect(() => {
    if (!work || work.state === 'running' || !(isExpected || followed.current === work.id)) return;
    followed.current = null;
    dispatch(api.util.invalidateTags([...CHANGED]));
    onEnd?.(work);
  }, [work, isExpected, dispatch, onEnd]);
  return work;
}

/** The list of works may have been read before the one was begun. */
const newerOf = (latest: Work | null, begun: Work | undefined): Work | null =>
  begun && (!latest || (latest.id !== begun.id && latest.startedAt <= begun.startedAt)) ? begun : latest;
