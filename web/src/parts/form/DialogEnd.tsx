import type { ReactNode } from 'react';
import { Button, Modal } from 'react-bootstrap';

interface DialogEndProps {
  readonly onCancel: () => void;
  /** The button that does what the dialog is for. */
  readonly children: ReactNode;
}

/** How a dialog ends: nothing done, or what it is for. */
export function DialogEnd({ onCancel, children }: DialogEndProps) {
  return (
    <Modal.Footer>
      <Button variant="outline-secondary" onClick={onCancel}>
        Cancel
      </Button>
      {children}
    </Modal.Footer>
  );
}
