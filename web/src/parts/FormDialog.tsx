import { type FormEvent, type ReactNode, useId, useRef } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { problemOf } from '../client/api.ts';
import { ErrorNotice } from './ErrorNotice.tsx';

interface FormDialogProps {
  readonly title: string;
  /** What the button that sends it says. */
  readonly confirm: string;
  readonly variant?: 'primary' | 'danger';
  readonly isBusy?: boolean;
  /** A refused request; what belongs to one box is told there, by the form itself. */
  readonly error?: unknown;
  readonly children: ReactNode;
  readonly onSubmit: () => void;
  readonly onClose: () => void;
}

/** A form that opens over the page, is sent by Enter and left by Escape. */
export function FormDialog(props: FormDialogProps) {
  const { title, confirm, variant = 'primary', isBusy = false, error, children, onSubmit, onClose } = props;
  const id = useId();
  const body = useRef<HTMLDivElement>(null);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onSubmit();
  };
  return (
    <Modal show onHide={onClose} onEntered={() => focusFirst(body.current)} centered aria-labelledby={id}>
      <Form onSubmit={submit} noValidate>
        <Modal.Header closeButton>
          <h2 id={id}>{title}</h2>
        </Modal.Header>
        <Modal.Body ref={body}>
          {children}
          {!problemOf(error)?.errors && <ErrorNotice error={error} />}
        </Modal.Body>
        <Modal.Footer>
          <Button variant="outline-secondary" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" variant={variant} disabled={isBusy}>
            {confirm}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}

/** A menu that opened the dialog takes the focus back as it closes; then the first box gets it again. */
function focusFirst(body: HTMLElement | null): void {
  if (!body?.contains(document.activeElement)) body?.querySelector<HTMLElement>('input, select, textarea')?.focus();
}
