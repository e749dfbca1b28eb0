import { Form } from 'react-bootstrap';
import type { FieldValues, Path, UseFormReturn } from 'react-hook-form';
import { boxProblem } from './boxProblem.ts';

interface TextFieldProps<Values extends FieldValues> {
  readonly form: UseFormReturn<Values>;
  readonly name: Path<Values>;
  readonly id: string;
  readonly label: string;
  readonly max: number;
  readonly autoFocus?: boolean;
  readonly type?: 'text' | 'email' | 'password' | 'date' | 'time';
  /** As a box of so many lines. */
  readonly rows?: number;
  readonly autoComplete?: string;
}

/** A labelled text box of a form, with what is wrong with it below. */
export function TextField<Values extends FieldValues>(props: TextFieldProps<Values>) {
  const { form, name, id, label, max, rows, type = 'text', autoFocus = false } = props;
  const problem = boxProblem(form, name);
  const autoComplete = props.autoComplete ?? (type === 'password' ? 'new-password' : 'off');
  return (
    <Form.Group controlId={id} className="mb-2">
      <Form.Label>{label}</Form.Label>
      <Form.Control
        {...(rows ? { as: 'textarea' as const, rows } : { type })}
        {...{ autoComplete, autoFocus }}
        maxLength={max}
        isInvalid={Boolean(problem)}
        {...form.register(name)}
      />
      <Form.Control.Feedback type="invalid">{problem}</Form.Control.Feedback>
    </Form.Group>
  );
}
