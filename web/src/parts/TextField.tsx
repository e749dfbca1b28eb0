import { Form } from 'react-bootstrap';

interface TextFieldProps {
  readonly id: string;
  readonly label: string;
  readonly value: string;
  readonly max: number;
  readonly problem?: string | undefined;
  readonly autoFocus?: boolean;
  readonly type?: 'text' | 'password' | 'date';
  readonly onChange: (value: string) => void;
}

/** A labelled text box with what is wrong with it below. */
export function TextField({
  id,
  label,
  value,
  max,
  problem,
  autoFocus = false,
  type = 'text',
  onChange,
}: TextFieldProps) {
  return (
    <Form.Group controlId={id} className="mb-2">
      <Form.Label>{label}</Form.Label>
      <Form.Control
        type={type}
        {...(type === 'password' ? { autoComplete: 'new-password' } : {})}
        autoFocus={autoFocus}
        maxLength={max}
        value={value}
        isInvalid={Boolean(problem)}
        onChange={(event) => onChange(event.target.value)}
      />
      <Form.Control.Feedback type="invalid">{problem}</Form.Control.Feedback>
    </Form.Group>
  );
}
