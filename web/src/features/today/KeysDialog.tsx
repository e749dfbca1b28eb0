import { Modal } from 'react-bootstrap';

const KEYS = [
  ['↑ ↓', 'the deal before, and the next one'],
  ['Home', 'the first deal'],
  ['↵', 'open the deal'],
  ['1 to 9', 'give a step its result'],
  ['D', 'done, and on to the next one'],
  ['L', 'later: another day'],
  ['N', 'write a note, or log a call'],
  ['U', 'undo what was done last'],
  ['?', 'these keys'],
] as const;

/** What the keys do on the page. */
export function KeysDialog({ onClose }: { readonly onClose: () => void }) {
  return (
    <Modal show onHide={onClose} centered aria-labelledby="keys-title">
      <Modal.Header closeButton>
        <h2 id="keys-title">Keys</h2>
      </Modal.Header>
      <Modal.Body>
        <dl className="day-keys">
          {KEYS.map(([key, what]) => (
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
