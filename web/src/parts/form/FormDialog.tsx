import { type FormEvent, type ReactNode, useId, useRef } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { FieldValues } from 'react-hook-form';
import { ErrorNotice } from '../ErrorNotice.tsx';
import { DialogEnd } from './DialogEnd.tsx';
import type { BodyForm } from './useBodyForm.ts';

interface FormDialogProps<Values extends FieldValues> {
  readonly title: string;
  /** What the button that sends it says. */
  readonly confirm: string;
  readonly variant?: 'primary' | 'danger';
  readonly of: BodyForm<Values>;
  readonly isBusy?: boolean;
  readonly children: ReactNode;
  readonly onClose: () => void;
}

/** A form that opens over the page, is sent by Enter and left by Escape. */
export function FormDialog<Values extends FieldValues>(props: FormDialogProps<Values>) {
  const { title, of, isBusy = false, children, onClose } = props;
  const id = useId();
  const body = useRef<HTMLDivElement>(null);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    of.submit();
  };
  return (
    <Modal show onHide={onClose} onEntered={() => focusFirst(body.current)} centered aria-labelledby={id}>
      <Form onSubmit={submit} noValidate>
        <Modal.Header closeButton>
          <h2 id={id}>{title}</h2>
        </Modal.Header>
        <Modal.Body ref={body}>
          {children}
          <ErrorNotice error={of.error} />
        </Modal.Body>
        <Buttons {...props} isBusy={isBusy || of.form.formState.isSubmitting} />
      </Form>
    </Modal>
  );
}

type ButtonsProps = Pick<FormDialogProps<FieldValues>, 'confirm' | 'variant' | 'isBusy' | 'onClose'>;

function Buttons({ confirm, variant = 'primary', isBusy = false, onClose }: ButtonsProps) {
  return (
    <DialogEnd onCancel={onClose}>
      <Button type="submit" variant={variant} disabled={isBusy}>
        {confirm}
      </Button>
    </DialogEnd>
  );
}

/** A menu that opened the dialog takes the focus back as it closes; then the first box gets it again. */
function focusFirst(body: HTMLElement | null): void {
  if (!body?.contains(document.activeElement)) body?.querySelector<HTMLElement>('input, select, textarea')?.focus();
}
