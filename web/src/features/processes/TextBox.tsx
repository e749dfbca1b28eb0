import { Form } from 'react-bootstrap';
import { useWritten } from '../../parts/form/useWritten.ts';

interface TextBoxProps {
  readonly id: string;
  readonly label: string;
  readonly value: string;
  readonly max: number;
  readonly onSave: (value: string) => void;
}

/** A text that is saved when the box is left, so that a name half written is never a name. */
export function TextBox({ id, label, value, max, onSave }: TextBoxProps) {
  const [text, setText] = useWritten(value);
  const save = () => {
    if (text !== value) onSave(text.trim());
    setText(value);
  };
  return (
    <Form.Group controlId={id} className="mb-2">
      <Form.Label>{label}</Form.Label>
      <Form.Control
        value={text}
        maxLength={max}
        onChange={(event) => setText(event.target.value)}
        onBlur={save}
        onKeyDown={(event) => event.key === 'Enter' && save()}
      />
    </Form.Group>
  );
}
