import { Button } from 'react-bootstrap';
import { shortDay } from './format.ts';

interface PastNoteProps {
  readonly told: {
    readonly on: string;
    readonly today: string;
    readonly version: { readonly number: number } | null;
  };
  readonly onToday: () => void;
}

/** Of which past day a page is told, and how: what is listed of deals is of them as they are. */
export const PastNote = ({ told: { on, today, version }, onToday }: PastNoteProps) => (
  <p className="past-note">
    As of the end of {shortDay(on, today)}
    {version && `, when version ${version.number} was live`}: by whose the deals were then, and at the rates of that
    day. Deals and findings are listed as of today.
    <Button variant="link" onClick={onToday}>
      Back to today
    </Button>
  </p>
);
