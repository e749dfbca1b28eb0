import { applyEdit, type GuidedStep } from '@ladder/core';
import { useState } from 'react';
import { useAppDispatch } from '../../../client/hooks.ts';
import { processesApi } from '../processesApi.ts';
import { copiedStep } from './copiedStep.ts';

/** Puts a copy of a step into another process's draft, which is begun where there is none. */
export function useCopyInto(step: GuidedStep) {
  const dispatch = useAppDispatch();
  const [error, setError] = useState<unknown>();
  const [isBusy, setBusy] = useState(false);

  const draftOf = (process: string, hasDraft: boolean) =>
    hasDraft
      ? dispatch(processesApi.endpoints.getDraft.initiate(process, { forceRefetch: true, subscribe: false })).unwrap()
      : dispatch(processesApi.endpoints.beginDraft.initiate({ id: process })).unwrap();

  /** Whether it was copied. */
  const copy = async (process: string, hasDraft: boolean, stageId: string): Promise<boolean> => {
    setBusy(true);
    setError(undefined);
    try {
      const { document, revision } = await draftOf(process, hasDraft);
      const stage = document.stages.find(({ id }) => id === stageId);
      const edited =
        stage && applyEdit(document, { kind: 'put_step', stage: stage.id, step: copiedStep(step, document, stage) });
      if (!edited?.ok)
        throw {
          status: 409,
          data: { status: 409, title: 'Changed meanwhile', detail: 'That stage is gone from the other draft.' },
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
