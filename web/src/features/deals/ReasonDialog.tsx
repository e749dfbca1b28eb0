import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { FormDialog } from '../../parts/FormDialog.tsx';

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
  const submit = () => {
    setAsked(true);
    if (text.trim() !== '') onConfirm(text.trim());
  };
  return (
    <FormDialog
      title={title}
      confirm={confirm}
      variant={danger ? 'danger' : 'primary'}
      onSubmit={submit}
      onClose={onClose}
    >
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
    </FormDialog>
  );
}
