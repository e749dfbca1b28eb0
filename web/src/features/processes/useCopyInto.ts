import { applyEdit, type ProcessDocument, type ProcessEdit } from '@ladder/core';
import { useState } from 'react';
import { useAppDispatch } from '../../client/hooks.ts';
import { processesApi } from './processesApi.ts';

/** What puts a copy at a place of a document; null where that place is not there. */
export type CopyEdit = (place: string, document: ProcessDocument) => ProcessEdit | null;

/** Puts a copy of something into another process's draft, which is begun where there is none. */
export function useCopyInto(toEdit: CopyEdit) {
  const dispatch = useAppDispatch();
  const [error, setError] = useState<unknown>();
  const [isBusy, setBusy] = useState(false);

  const draftOf = (process: string, hasDraft: boolean) =>
    hasDraft
      ? dispatch(processesApi.endpoints.getDraft.initiate(process, { forceRefetch: true, subscribe: false })).unwrap()
      : dispatch(processesApi.endpoints.beginDraft.initiate({ id: process })).unwrap();

  /** Whether it was copied. */
  const copy = async (process: string, hasDraft: boolean, place: string): Promise<boolean> => {
    setBusy(true);
    setError(undefined);
    try {
      const { document, revision } = await draftOf(process, hasDraft);
      const edit = toEdit(place, document);
      const edited = edit && applyEdit(document, edit);
      if (!edited?.ok)
        throw {
          status: 409,
          data: { status: 409, title: 'Changed meanwhile', detail: 'That place is gone from the other draft.' },
        };
      await dispatch(
        processesApi.endpoints.saveDraft.initiate({ id: process, document: edited.value, revision }),
      ).unwrap();
      return true;
    } catch (failure) {
      setError(failure);
      return false;
    } finally {
      setBusy(false);
    }
  };
  return { copy, error, isBusy };
}
