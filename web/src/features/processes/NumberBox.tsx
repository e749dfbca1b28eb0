import { Form } from 'react-bootstrap';
import { useWritten } from '../../parts/form/useWritten.ts';

interface NumberBoxProps {
  readonly id: string;
  readonly label: string;
  readonly unit?: string;
  readonly value: number | null;
  readonly min: number;
  readonly max: number;
  readonly onSave: (value: number | null) => void;
}

/** A whole number that is saved when the box is left, if it lies within its bounds; an empty box is no number. */
export function NumberBox({ id, label, unit, value, min, max, onSave }: NumberBoxProps) {
  const shown = value === null ? '' : String(value);
  const [text, setText] = useWritten(shown);
  const number = text.trim() === '' ? null : Number(text);
  const isBad = number !== null && (!Number.isInteger(number) || number < min || number > max);
  const save = () => {
    if (!isBad && number !== value) onSave(number);
  };
  return (
    <Form.Group controlId={id}>
      <Form.Label>{label}</Form.Label>
      <div className="with-unit">
        <Form.Control
          inputMode="numeric"
          value={text}
          placeholder="none"
          isInvalid={isBad}
          onChange={(event) => setText(event.target.value)}
          onBlur={save}
          onKeyDown={(event) => event.key === 'Enter' && save()}
        />
        {unit && <span className="small muted">{unit}</span>}
        <Form.Control.Feedback type="invalid">
          A whole number from {min} to {max}.
        </Form.Control.Feedback>
      </div>
    </Form.Group>
  );
}
