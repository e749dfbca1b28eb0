import { type FormEvent, useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';

interface ReasonDialogProps {
  readonly title: string;
  readonly label: string;
  readonly confirm: string;
  readonly danger?: 'yes';
  readonly problem?: string | undefined;
  readonly onConfirm: (text: string) => void;
  readonly onClose: () => void;
}

/** Asks why, in the person's own words. */
export function ReasonDialog({ title, label, confirm, danger, problem, onConfirm, onClose }: ReasonDialogProps) {
  const [text, setText] = useState('');
  const [isAsked, setAsked] = useState(false);
  const isMissing = isAsked && text.trim() === '';
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setAsked(true);
    if (text.trim() !== '') onConfirm(text.trim());
  };
  return (
    <Modal show onHide={onClose} centered aria-labelledby="reason-title">
      <Form onSubmit={submit} noValidate>
        <Modal.Header closeButton>
          <h2 id="reason-title">{title}</h2>
        </Modal.Header>
        <Modal.Body>
          <Form.Group controlId="reason-text">
            <Form.Label>{label}</Form.Label>
            <Form.Control
              as="textarea"
              rows={3}
              autoFocus
              maxLength={2000}
              value={text}
              isInvalid={isMissing || Boolean(problem)}
              onChange={(event) => setText(event.target.value)}
            />
            <Form.Control.Feedback type="invalid">{isMissing ? 'Say why.' : problem}</Form.Control.Feedback>
          </Form.Group>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="outline-secondary" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" variant={danger ? 'danger' : 'primary'}>
            {confirm}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
