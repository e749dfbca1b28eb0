import type { DealId } from '@ladder/core';
import { useState } from 'react';
import { api, problemOf, queryString } from '../../client/api.ts';
import { useAppDispatch } from '../../client/hooks.ts';
import { uploadFile } from '../../client/uploadFile.ts';

/** A file on its way, or what was wrong with it. */
export interface Upload {
  readonly id: string;
  readonly name: string;
  readonly share: number;
  readonly problem: string | null;
}

/** Files that are being attached to a deal, several at once; one that is attached goes from the list. */
export function useUploads(deal: DealId) {
  const dispatch = useAppDispatch();
  const [uploads, setUploads] = useState<readonly Upload[]>([]);
  const change = (id: string, changed: Partial<Upload>) =>
    setUploads((all) => all.map((one) => (one.id === id ? { ...one, ...changed } : one)));
  const drop = (id: string) => setUploads((all) => all.filter((one) => one.id !== id));

  const send = async (kind: string, file: File) => {
    const id = crypto.randomUUID();
    setUploads((all) => [...all, { id, name: file.name, share: 0, problem: null }]);
    const path = `/deals/${deal}/documents${queryString({ kind, name: file.name })}`;
    const answer = await uploadFile(path, file, (share) => change(id, { share }));
    const problem = problemOf(answer.error);
    if (problem) return change(id, { problem: problem.errors?.[0]?.detail ?? problem.detail ?? problem.title });
    drop(id);
    dispatch(api.util.invalidateTags([{ type: 'Deal', id: deal }, { type: 'Journal', id: deal }, 'Deals']));
  };
  const attach = (kind: string, files: readonly File[]) => {
    for (const file of files) void send(kind, file);
  };
  return { uploads, attach, drop };
}
