import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { Loading } from '../../parts/Loading.tsx';
import { PlainTable } from '../../parts/PlainTable.tsx';
import {
  type DocumentKind,
  useAddDocumentKindMutation,
  useChangeDocumentKindMutation,
  useGetDocumentKindsQuery,
} from '../documents/documentsApi.ts';

/** Kinds of documents that gates can ask for and deals can carry. */
export function DocumentKindSettings() {
  const { data: kinds, error } = useGetDocumentKindsQuery();
  const [change, { error: changeError }] = useChangeDocumentKindMutation();
  const [open, setOpen] = useState<DocumentKind | 'new' | null>(null);
  return (
    <>
      <div className="settings-bar">
        <p className="muted small mb-0">What a deal’s documents are; a gate can ask for one of a kind.</p>
        <Button onClick={() => setOpen('new')}>Add a kind</Button>
      </div>
      <ErrorNotice error={error ?? changeError} />
      {!kinds && !error && <Loading />}
      {kinds?.items.length === 0 && (
        <p className="muted">There is no kind of documents yet, so none can be attached.</p>
      )}
      {kinds && kinds.items.length > 0 && (
        <PlainTable heads={['Kind of document', 'Offered', '']}>
          {kinds.items.map((kind) => (
            <tr key={kind.id}>
              <td>
                <Button variant="link" className="p-0" onClick={() => setOpen(kind)}>
                  {kind.name}
                </Button>
              </td>
              <td>{kind.withdrawn ? 'no longer' : 'yes'}</td>
              <td>
                <Button
                  variant="link"
                  className="p-0"
                  aria-label={`${kind.withdrawn ? 'Offer' : 'Withdraw'} ${kind.name}`}
                  onClick={() => change({ id: kind.id, change: { withdrawn: !kind.withdrawn } })}
                >
                  {kind.withdrawn ? 'Offer it again' : 'Withdraw'}
                </Button>
              </td>
            </tr>
          ))}
        </PlainTable>
      )}
      {open && <KindDialog kind={open === 'new' ? null : open} onClose={() => setOpen(null)} />}
    </>
  );
}

function KindDialog({ kind, onClose }: { kind: DocumentKind | null; onClose: () => void }) {
  const [add] = useAddDocumentKindMutation();
  const [change] = useChangeDocumentKindMutation();
  const form = useBodyForm({
    begin: { name: kind?.name ?? '' },
    schema: ({ people }) => people.newTeam,
    toBody: ({ name }) => ({ name: name.trim() }),
    send: ({ name }): Promise<{ data?: DocumentKind; error?: unknown }> =>
      kind ? change({ id: kind.id, change: { name } }) : add(name),
    onDone: onClose,
  });
  const title = kind ? `Rename ${kind.name}` : 'Add a kind of documents';
  return (
    <FormDialog title={title} confirm={kind ? 'Rename' : 'Add the kind'} of={form} onClose={onClose}>
      <TextField form={form.form} name="name" id="kind-name" label="Name" autoFocus max={200} />
    </FormDialog>
  );
}
