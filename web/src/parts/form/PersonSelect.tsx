import { Form } from 'react-bootstrap';
import type { FieldValues, Path, UseFormReturn } from 'react-hook-form';
import { Options } from '../Options.tsx';
import { boxProblem } from './boxProblem.ts';

interface PersonSelectProps<Values extends FieldValues> {
  readonly form: UseFormReturn<Values>;
  readonly name: Path<Values>;
  readonly id: string;
  readonly label: string;
  readonly people: readonly { readonly id: string; readonly name: string }[];
}

/** A labelled choice of one person; nobody is chosen at first. */
export function PersonSelect<Values extends FieldValues>({ form, name, id, label, people }: PersonSelectProps<Values>) {
  const wrong = boxProblem(form, name);
  return (
    <Form.Group controlId={id} className="mb-2">
      <Form.Label>{label}</Form.Label>
      <Form.Select isInvalid={wrong !== undefined} {...form.register(name)}>
        <option value="">Choose…</option>
        <Options of={people} />
      </Form.Select>
      <Form.Control.Feedback type="invalid">{wrong}</Form.Control.Feedback>
    </Form.Group>
  );
}
