import type { endpoints } from '@ladder/contract';
import type { ProcessFile } from '@ladder/core';
import { useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import { type AnswerOf, problemOf } from '../../client/api.ts';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { DialogEnd } from '../../parts/form/DialogEnd.tsx';
import { useAddProcessMutation, usePlanFileMutation } from './processesApi.ts';

/** Larger ones are no process. */
const MOST_BYTES = 1_000_000;

/** Reads a process from a file: first what it would match and make is shown, then it is done. */
export function FileProcessDialog({ onClose }: { onClose: () => void }) {
  const { organisation } = useSession();
  const navigate = useNavigate();
  const [plan, { data: planned, error: unread, isLoading, reset }] = usePlanFileMutation();
  const [addProcess, { error: refused, isLoading: isAdding }] = useAddProcessMutation();
  const [file, setFile] = useState<ProcessFile | null>(null);
  const [name, setName] = useState('');
  const [unreadable, setUnreadable] = useState<string | null>(null);
  const read = async (chosen: File | undefined) => {
    reset();
    setFile(null);
    setUnreadable(null);
    if (!chosen) return;
    const content = chosen.size > MOST_BYTES ? null : jsonOf(await chosen.text());
    if (content === null) return setUnreadable('This is no process: a file of JSON of at most 1 MB. Choose another.');
    const { data } = await plan(content as ProcessFile);
    if (!data) return;
    setFile(content as ProcessFile);
    setName(data.name);
  };
  const make = async () => {
    if (!file) return;
    const body = {
      name: name.trim(),
      kind: 'deal' as const,
      currency: organisation.currency,
      from: { as: 'file' as const, file },
    };
    const { data } = await addProcess(body);
    if (data) await navigate(`/processes/${data.id}`);
  };
  return (
    <Modal show onHide={onClose} centered scrollable aria-labelledby="file-title">
      <Modal.Header closeButton>
        <h2 id="file-title">A process from a file</h2>
      </Modal.Header>
      <Modal.Body>
        <Form.Group controlId="process-file" className="mb-2">
          <Form.Label>The file</Form.Label>
          <Form.Control
            type="file"
            accept="application/json,.json"
            isInvalid={unreadable !== null}
            onChange={(event) => void read((event.target as HTMLInputElement).files?.[0])}
          />
          <Form.Control.Feedback type="invalid">{unreadable}</Form.Control.Feedback>
        </Form.Group>
        <FileProblems error={unread} />
        {planned && file !== null && (
          <>
            <Form.Group controlId="file-name" className="mb-2">
              <Form.Label>Name</Form.Label>
              <Form.Control value={name} maxLength={200} onChange={(event) => setName(event.target.value)} />
            </Form.Group>
            <Plan planned={planned} />
          </>
        )}
        <FileProblems error={refused} />
      </Modal.Body>
      <DialogEnd onCancel={onClose}>
        <Button disabled={!planned || file === null || name.trim() === '' || isLoading || isAdding} onClick={make}>
          Begin the draft
        </Button>
      </DialogEnd>
    </Modal>
  );
}

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

/** What is wrong in the file, each with where it stands (RFC 6901). */
function FileProblems({ error }: { error: unknown }) {
  const problems = problemOf(error)?.errors ?? [];
  if (problems.length === 0) return <ErrorNotice error={error} />;
  return (
    <div className="notice bad" role="alert">
      <ul className="mb-0">
        {problems.map(({ pointer, detail }) => (
          <li key={`${pointer} ${detail}`}>
            <code>{pointer.replace(/^(\/from)?\/file/, '') || '/'}</code> {detail}
          </li>
        ))}
      </ul>
    </div>
  );
}

type Planned = AnswerOf<(typeof endpoints)['planProcessFile']>;

function Plan({ planned: { stages, fields, documentKinds, calendar, left } }: { planned: Planned }) {
  const made = [
    ...fields.filter(({ how }) => how === 'made').map(({ as }) => `field ${as}`),
    ...documentKinds.filter(({ how }) => how === 'made').map(({ name }) => `kind of documents ${name}`),
    ...(calendar.how === 'made' ? [`calendar ${calendar.name}`] : []),
  ];
  const matched = [
    ...fields
      .filter(({ how }) => how === 'matched')
      .map(
        ({ name, as, added }) =>
          `${name === as ? as : `${name} as ${as}`}${added.length > 0 ? `, with the new choices ${added.join(', ')}` : ''}`,
      ),
    ...documentKinds.filter(({ how }) => how === 'matched').map(({ name }) => name),
    ...(calendar.how === 'matched' ? [`calendar ${calendar.name}`] : []),
  ];
  return (
    <dl className="file-plan">
      <dt>Stages</dt>
      <dd>{stages.join(', ')}</dd>
      {made.length > 0 && <dt>Is made</dt>}
      {made.length > 0 && <dd>{made.join(', ')}</dd>}
      {matched.length > 0 && <dt>Is there already</dt>}
      {matched.length > 0 && <dd>{matched.join('; ')}</dd>}
      {left.length > 0 && <dt>Is not taken along</dt>}
      {left.length > 0 && <dd>{left.join(' ')}</dd>}
    </dl>
  );
}
