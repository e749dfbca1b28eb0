import { type ChecklistItem, TICKERS } from '@ladder/core';
import { type FormEvent, useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { DialogEnd } from '../../parts/form/DialogEnd.tsx';
import { Options } from '../../parts/Options.tsx';
import { useGetDocumentKindsQuery } from '../documents/documentsApi.ts';

interface ItemDialogProps {
  readonly item: ChecklistItem;
  readonly onSave: (item: ChecklistItem) => void;
  readonly onClose: () => void;
}

const WHO: Readonly<Record<(typeof TICKERS)[number], string>> = {
  owner: 'the deal’s owner, or a manager',
  manager: 'a manager of the team, or an administrator',
};

/** An item of a checklist: its words, who ticks it, and a document as evidence for the tick. */
export function ItemDialog({ item, onSave, onClose }: ItemDialogProps) {
  const { data: kinds } = useGetDocumentKindsQuery();
  const [text, setText] = useState(item.text);
  const [message, setMessage] = useState(item.message ?? '');
  const [who, setWho] = useState<ChecklistItem['who']>(item.who);
  const [afterReturn, setAfterReturn] = useState(item.afterReturn);
  const [document, setDocument] = useState(item.document ?? '');
  const offered = kinds?.items.filter(({ id, withdrawn }) => !withdrawn || id === document) ?? [];
  const save = (event: FormEvent) => {
    event.preventDefault();
    if (text.trim() === '') return;
    const { id, need, level } = item;
    const words = message.trim();
    onSave({
      ...{ id, need, level, afterReturn },
      text: text.trim(),
      ...(who ? { who } : {}),
      ...(document ? { document } : {}),
      ...(words ? { message: words } : {}),
    });
  };
  return (
    <Modal show onHide={onClose} centered aria-labelledby="item-title">
      <Form onSubmit={save}>
        <Modal.Header closeButton>
          <h2 id="item-title">Checklist item</h2>
        </Modal.Header>
        <Modal.Body>
          <Form.Group controlId="item-text" className="mb-2">
            <Form.Label>What is ticked</Form.Label>
            <Form.Control
              value={text}
              maxLength={500}
              autoFocus
              isInvalid={text.trim() === ''}
              onChange={(event) => setText(event.target.value)}
            />
            <Form.Control.Feedback type="invalid">An item has words.</Form.Control.Feedback>
          </Form.Group>
          <Form.Group controlId="item-message" className="mb-2">
            <Form.Label>Help for the seller, if any</Form.Label>
            <Form.Control
              as="textarea"
              rows={2}
              value={message}
              maxLength={2000}
              onChange={(event) => setMessage(event.target.value)}
            />
          </Form.Group>
          <Form.Group controlId="item-who" className="mb-2">
            <Form.Label>Who ticks it</Form.Label>
            <Form.Select
              value={who ?? ''}
              onChange={(event) => setWho(TICKERS.find((one) => one === event.target.value))}
            >
              <option value="">anyone who may change the deal</option>
              <Options of={TICKERS.map((id) => ({ id, name: WHO[id] }))} />
            </Form.Select>
          </Form.Group>
          <Form.Group controlId="item-document" className="mb-2">
            <Form.Label>Document as evidence</Form.Label>
            <Form.Select value={document} onChange={(event) => setDocument(event.target.value)}>
              <option value="">none</option>
              <Options of={offered} />
            </Form.Select>
            <Form.Text>It is attached before the tick; where it is removed, the item is open again.</Form.Text>
          </Form.Group>
          <Form.Check
            id="item-again"
            label="Ticked again where the deal comes back to the stage"
            checked={afterReturn === 'again'}
            onChange={(event) => setAfterReturn(event.target.checked ? 'again' : 'keep')}
          />
        </Modal.Body>
        <DialogEnd onCancel={onClose}>
          <Button type="submit" disabled={text.trim() === ''}>
            Save the item
          </Button>
        </DialogEnd>
      </Form>
    </Modal>
  );
}
