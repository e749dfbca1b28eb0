import { Button, Form } from 'react-bootstrap';
import { shortDay } from './format.ts';

interface PastNoteProps {
  /** What the page tells of. */
  readonly of: keyof typeof TELLS;
  readonly told: {
    readonly on: string;
    readonly today: string;
    readonly version: { readonly number: number } | null;
  };
  /** What an address says of by what the day is told; by what is known of it now, where it says nothing. */
  readonly known: string | null;
  readonly onKnown: (known: string | null) => void;
  readonly onToday: () => void;
}

/** Of which past day a page is told, and how: what is listed of deals is of them as they are. */
export const PastNote = ({ of, told: { on, today, version }, known, onKnown, onToday }: PastNoteProps) => (
  <div className="past-note">
    <p>
      As of the end of {shortDay(on, today)}
      {version && `, when version ${version.number} was live`}: {TELLS[of].how} {known ? KNOWN_THEN : KNOWN_NOW}{' '}
      {TELLS[of].beside}
    </p>
    <Form.Check
      type="switch"
      id="known-then"
      label="As it was known then"
      checked={known !== null}
      onChange={({ target }) => onKnown(target.checked ? 'then' : null)}
    />
    <Button variant="link" onClick={onToday}>
      Back to today
    </Button>
  </div>
);

const TELLS = {
  deals: {
    how: 'by whose the deals were then, and at the rates of that day.',
    beside: 'Deals and findings are listed as of today.',
  },
  moves: { how: 'by whose the deals were as they moved.', beside: '' },
};
const KNOWN_NOW = 'What was taken back, voided or written down later is told as it is known now.';
const KNOWN_THEN = 'What was taken back, voided or written down later is told as if it had not been yet.';
