import '../documents/documents.css';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useDropzone } from 'react-dropzone';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { byteCount, dayOf, shortDay } from '../../parts/format.ts';
import { Options } from '../../parts/Options.tsx';
import { useGetDocumentKindsQuery, useRemoveDocumentMutation } from '../documents/documentsApi.ts';
import { UploadList } from '../documents/UploadList.tsx';
import { useUploads } from '../documents/useUploads.ts';
import type { DealDetail } from './dealsApi.ts';

/** A deal's documents: what is attached, and a place to drop more of a kind. */
export function DocumentsPanel({ deal }: { deal: DealDetail }) {
  const mayAttach = deal.may.change && deal.status.state !== 'voided';
  if (deal.documents.length === 0 && !mayAttach) return null;
  return (
    <section className="documents" aria-labelledby="documents-title">
      <h3 id="documents-title">
        Documents <small>{deal.documents.length === 0 ? 'none yet' : deal.documents.length}</small>
      </h3>
      <ul>
        {deal.documents.map((document) => (
          <DocumentRow key={document.id} deal={deal} document={document} />
        ))}
      </ul>
      {mayAttach && <Attach deal={deal} />}
    </section>
  );
}

type DealDocument = DealDetail['documents'][number];

function DocumentRow({ deal, document }: { deal: DealDetail; document: DealDocument }) {
  const { organisation } = useSession();
  const [remove, { error, isLoading }] = useRemoveDocumentMutation();
  const { id, name, kind, bytes, namedAs, mediaType, at, by } = document;
  const about = [byteCount(bytes), by?.split(' ')[0], shortDay(dayOf(at, organisation), organisation.today)];
  return (
    <li>
      <b>{kind.name}</b>
      {name === '' ? (
        <span className="muted">erased</span>
      ) : (
        <a href={`/api/v1/deals/${deal.id}/documents/${id}/content`} download={name}>
          {name}
        </a>
      )}
      <span className="small muted">{about.filter((part) => part).join(' · ')}</span>
      {deal.may.change && (
        <Button
          variant="link"
          size="sm"
          className="p-0"
          aria-label={`Remove ${name}`}
          disabled={isLoading}
          onClick={() => remove({ deal: deal.id, document: id })}
        >
          Remove
        </Button>
      )}
      {namedAs !== null && (
        <span className="small text-flagged">
          Its name says {namedAs}; its bytes are {mediaType}.
        </span>
      )}
      <ErrorNotice error={error} />
    </li>
  );
}

function Attach({ deal }: { deal: DealDetail }) {
  const { data: kinds } = useGetDocumentKindsQuery();
  const offered = kinds?.items.filter(({ withdrawn }) => !withdrawn) ?? [];
  const [chosen, setChosen] = useState('');
  const kind = chosen || (offered[0]?.id ?? '');
  const { uploads, attach, drop } = useUploads(deal.id);
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    disabled: kind === '',
    onDrop: (files) => attach(kind, files),
  });
  if (kinds && offered.length === 0)
    return <p className="small muted">An administrator sets up kinds of documents under Settings.</p>;
  return (
    <>
      <div {...getRootProps({ className: `attach ${isDragActive ? 'on' : ''}` })}>
        <input {...getInputProps({ 'aria-label': 'Files to attach' })} />
        <Form.Select
          size="sm"
          aria-label="Kind of document"
          value={kind}
          onChange={(event) => setChosen(event.target.value)}
        >
          <Options of={offered} />
        </Form.Select>
        <Button variant="outline-secondary" size="sm" onClick={open}>
          Choose files…
        </Button>
        <span className="small muted">or drop them here</span>
      </div>
      <UploadList uploads={uploads} onDrop={drop} />
    </>
  );
}
