import { Button } from 'react-bootstrap';
import { ArrowDown, ArrowUp } from 'react-bootstrap-icons';

interface MoveButtonsProps {
  readonly name: string;
  readonly place: number;
  readonly count: number;
  readonly onMove: (to: number) => void;
}

/** Moves one of a list up or down; nothing where there is only one. */
export function MoveButtons({ name, place, count, onMove }: MoveButtonsProps) {
  if (count < 2) return null;
  return (
    <span className="move-buttons">
      <Button
        variant="link"
        size="sm"
        aria-label={`Move up: ${name}`}
        disabled={place === 0}
        onClick={() => onMove(place - 1)}
      >
        <ArrowUp aria-hidden />
      </Button>
      <Button
        variant="link"
        size="sm"
        aria-label={`Move down: ${name}`}
        disabled={place === count - 1}
        onClick={() => onMove(place + 1)}
      >
        <ArrowDown aria-hidden />
      </Button>
    </span>
  );
}
