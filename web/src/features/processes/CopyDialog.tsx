import type { ProcessDocument } from '@ladder/core';
import { type FormEvent, useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { useParams } from 'react-router';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { DialogEnd } from '../../parts/form/DialogEnd.tsx';
import { Options } from '../../parts/Options.tsx';
import { useDesign } from './designContext.ts';
import { useGetDraftQuery, useGetProcessQuery, useListProcessesQuery } from './processesApi.ts';
import { type CopyEdit, useCopyInto } from './useCopyInto.ts';

interface CopyDialogProps {
  /** What is copied is called. */
  readonly name: string;
  /** What becomes of what it leads to or reads. */
  readonly note: string;
  /** Where it can go in a document, of this process or another one. */
  readonly placesIn: (document: ProcessDocument) => readonly { readonly id: string; readonly name: string }[];
  readonly toEdit: CopyEdit;
  /** Only other processes are offered. */
  readonly isElsewhere?: boolean;
  readonly onClose: () => void;
}

/** Copies a part of the design to another place, of this process or of another one's draft. */
export function CopyDialog({ name, note, placesIn, toEdit, isElsewhere = false, onClose }: CopyDialogProps) {
  const { document, edit } = useDesign();
  const { process: own = '' } = useParams();
  const { data: processes } = useListProcessesQuery();
  const offered = processes?.items.filter(({ id }) => !isElsewhere || id !== own) ?? [];
  const [chosenProcess, setProcess] = useState(isElsewhere ? null : own);
  const process = chosenProcess ?? offered[0]?.id ?? null;
  const other = useOtherDocument(process === own ? null : process);
  const into = process === own ? document : other.document;
  const places = into ? placesIn(into) : [];
  const [chosen, setChosen] = useState('');
  const target = places.find(({ id }) => id === chosen) ?? places[0];
  const { copy, error, isBusy } = useCopyInto(toEdit);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (process === null || !target) return;
    const here = process === own ? toEdit(target.id, document) : null;
    if (here) edit?.(here);
    else if (!(await copy(process, other.hasDraft, target.id))) return;
    onClose();
  };
  return (
    <Modal show onHide={onClose} centered aria-labelledby="copy-title">
      <Form onSubmit={submit}>
        <Modal.Header closeButton>
          <h2 id="copy-title">Copy “{name}”</h2>
        </Modal.Header>
        <Modal.Body>
          <Form.Group controlId="copy-process" className="mb-2">
            <Form.Label>Into which process</Form.Label>
            <Form.Select value={process ?? ''} onChange={(event) => setProcess(event.target.value)}>
              <Options of={offered} />
            </Form.Select>
            {processes && offered.length === 0 && <Form.Text>There is no other process yet.</Form.Text>}
          </Form.Group>
          <Form.Group controlId="copy-place">
            <Form.Label>To which place</Form.Label>
            <Form.Select value={target?.id ?? ''} onChange={(event) => setChosen(event.target.value)}>
              <Options of={places} />
            </Form.Select>
          </Form.Group>
          <p className="small muted mt-2 mb-0">
            {note}
            {process !== own && ' The copy goes into that process’s draft; nothing is published.'}
          </p>
          <ErrorNotice error={error} />
        </Modal.Body>
        <DialogEnd onCancel={onClose}>
          <Button type="submit" disabled={!target || isBusy}>
            Copy it
          </Button>
        </DialogEnd>
      </Form>
    </Modal>
  );
}

/** Another process as its draft has it, or its live version where there is none. */
function useOtherDocument(process: string | null): { document: ProcessDocument | undefined; hasDraft: boolean } {
  const { currentData: detail } = useGetProcessQuery(process ?? '', { skip: process === null });
  const hasDraft = detail?.hasDraft === true;
  const { currentData: draft } = useGetDraftQuery(process ?? '', { skip: process === null || !hasDraft });
  return { hasDraft, document: hasDraft ? draft?.document : detail?.live?.document };
}
