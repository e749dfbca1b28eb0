import { type DesignCheck, dayNumber, type Field, MONDAY_TO_FRIDAY, type ProcessDocument } from '@ladder/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useSession } from '../../../client/session.ts';
import type { WorkerDesign } from '../../../workers/designCheck.worker.ts';
import { useGetDocumentKindsQuery } from '../../documents/documentsApi.ts';
import { useGetPeopleQuery } from '../../session/sessionApi.ts';
import { useGetEvidenceQuery } from './checkApi.ts';

/** What the check says of a document; null until it has been looked through once. */
export interface CheckState {
  readonly check: DesignCheck | null;
  readonly state: 'checking' | 'done' | 'failed';
}

const PAUSE_MS = 150;

/** Looks a document through as it is edited, in a worker: of what comes while it is at work, the last alone is looked at next. */
export function useDesignCheck(
  process: string,
  document: ProcessDocument,
  fields: readonly Field[],
  who: 'checks' | 'reads',
): CheckState {
  const design = useDesign(process, document, fields, who);
  const [found, setFound] = useState<CheckState>({ check: null, state: 'checking' });
  const waiting = useRef<WorkerDesign | null>(null);
  const send = useRef<(() => void) | null>(null);
  useEffect(() => {
    if (who === 'reads') return;
    const worker = new Worker(new URL('../../../workers/designCheck.worker.ts', import.meta.url), { type: 'module' });
    let isBusy = false;
    const next = () => {
      if (isBusy || !waiting.current) return;
      isBusy = true;
      worker.postMessage(waiting.current);
      waiting.current = null;
    };
    worker.onmessage = ({ data }: MessageEvent<DesignCheck>) => {
      isBusy = false;
      setFound({ check: data, state: waiting.current ? 'checking' : 'done' });
      next();
    };
    worker.onerror = () => {
      isBusy = false;
      setFound({ check: null, state: 'failed' });
      next();
    };
    send.current = next;
    return () => worker.terminate();
  }, [who]);
  useEffect(() => {
    if (!design) return;
    setFound(({ check }) => ({ check, state: 'checking' }));
    const timer = setTimeout(() => {
      waiting.current = design;
      send.current?.();
    }, PAUSE_MS);
    return () => clearTimeout(timer);
  }, [design]);
  return found;
}

/** The design with what it is checked by; null while that is not there. What past deals did may come later, or never. */
function useDesign(
  process: string,
  document: ProcessDocument,
  fields: readonly Field[],
  who: 'checks' | 'reads',
): WorkerDesign | null {
  const { organisation } = useSession();
  const skip = who === 'reads';
  const { data: kinds } = useGetDocumentKindsQuery(undefined, { skip });
  const { data: people } = useGetPeopleQuery(undefined, { skip });
  const { currentData: evidence } = useGetEvidenceQuery(process, { skip });
  return useMemo(
    () =>
      kinds && people
        ? {
            document,
            fields,
            kinds: kinds.items.filter(({ withdrawn }) => !withdrawn).map(({ id, name }) => [id, name] as const),
            people: people.items.map(({ id, role }) => ({ id, role })),
            today: dayNumber(organisation.today),
            calendar: evidence?.calendar ?? MONDAY_TO_FRIDAY,
            evidence: evidence?.stages ?? [],
          }
        : null,
    [document, fields, kinds, people, evidence, organisation.today],
  );
}
