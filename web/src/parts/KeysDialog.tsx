import { Modal } from 'react-bootstrap';

interface KeysDialogProps {
  /** Each key, and what it does. */
  readonly keys: readonly (readonly [string, string])[];
  readonly onClose: () => void;
}

/** What the keys do on the page. */
export function KeysDialog({ keys, onClose }: KeysDialogProps) {
  return (
    <Modal show onHide={onClose} centered aria-labelledby="keys-title">
      <Modal.Header closeButton>
        <h2 id="keys-title">Keys</h2>
      </Modal.Header>
      <Modal.Body>
        <dl className="keys">
          {keys.map(([key, what]) => (
            <div key={key} className="d-contents">
              <dt>
                <kbd>{key}</kbd>
              </dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
      </Modal.Body>
    </Modal>
  );
}
