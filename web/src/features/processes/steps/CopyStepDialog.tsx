import type { GuidedStep, Stage } from '@ladder/core';
import { type FormEvent, useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { useParams } from 'react-router';
import { ErrorNotice } from '../../../parts/ErrorNotice.tsx';
import { Options } from '../../../parts/Options.tsx';
import { useDesign } from '../designContext.ts';
import { useGetDraftQuery, useGetProcessQuery, useListProcessesQuery } from '../processesApi.ts';
import { copiedStep } from './copiedStep.ts';
import { useCopyInto } from './useCopyInto.ts';

interface CopyStepDialogProps {
  readonly stage: Stage;
  readonly step: GuidedStep;
  readonly onClose: () => void;
}

/** Copies a step into another stage, of this process or of another one's draft. */
export function CopyStepDialog({ stage, step, onClose }: CopyStepDialogProps) {
  const { document, edit } = useDesign();
  const { process: own = '' } = useParams();
  const { data: processes } = useListProcessesQuery();
  const [process, setProcess] = useState(own);
  const other = useOtherStages(process === own ? null : process);
  const stages = process === own ? document.stages.filter(({ id }) => id !== stage.id) : other.stages;
  const [chosen, setChosen] = useState('');
  const target = stages.find(({ id }) => id === chosen) ?? stages[0];
  const { copy, error, isBusy } = useCopyInto(step);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (!target) return;
    if (process === own) edit?.({ kind: 'put_step', stage: target.id, step: copiedStep(step, document, target) });
    else if (!(await copy(process, other.hasDraft, target.id))) return;
    onClose();
  };
  return (
    <Modal show onHide={onClose} centered aria-labelledby="copy-step-title">
      <Form onSubmit={submit}>
        <Modal.Header closeButton>
          <h2 id="copy-step-title">Copy “{step.name}”</h2>
        </Modal.Header>
        <Modal.Body>
          <Form.Group controlId="copy-step-process" className="mb-2">
            <Form.Label>Into which process</Form.Label>
            <Form.Select value={process} onChange={(event) => setProcess(event.target.value)}>
              <Options of={processes?.items ?? [{ id: own, name: document.name }]} />
            </Form.Select>
          </Form.Group>
          <Form.Group controlId="copy-step-stage">
            <Form.Label>Into which stage</Form.Label>
            <Form.Select value={target?.id ?? ''} onChange={(event) => setChosen(event.target.value)}>
              <Options of={stages} />
            </Form.Select>
          </Form.Group>
          <p className="small muted mt-2 mb-0">
            What leads to something that is not there leads to the next step.
            {process !== own && ' The copy goes into that process’s draft; nothing is published.'}
          </p>
          <ErrorNotice error={error} />
        </Modal.Body>
        <Modal.Footer>
          <Button variant="outline-secondary" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" disabled={!target || isBusy}>
            Copy it
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}

/** Stages of another process as its draft has them, or its live version where there is none. */
function useOtherStages(process: string | null): { stages: readonly Stage[]; hasDraft: boolean } {
  const { currentData: detail } = useGetProcessQuery(process ?? '', { skip: process === null });
  const hasDraft = detail?.hasDraft === true;
  const { currentData: draft } = useGetDraftQuery(process ?? '', { skip: process === null || !hasDraft });
  return { hasDraft, stages: (hasDraft ? draft?.document.stages : detail?.live?.document.stages) ?? [] };
}
