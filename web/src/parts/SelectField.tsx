import { Form } from 'react-bootstrap';

interface SelectFieldProps<Value extends string> {
  readonly id: string;
  readonly label: string;
  readonly value: Value;
  /** What can be chosen, in order, by what it is called. */
  readonly names: Readonly<Record<Value, string>>;
  readonly problem?: string | undefined;
  readonly className?: string;
  readonly onChange: (value: Value) => void;
}

/** A labelled choice of one of a closed set, with what is wrong with it below. */
export function SelectField<Value extends string>(props: SelectFieldProps<Value>) {
  const { id, label, value, names, problem, className = 'mb-2', onChange } = props;
  const offered = Object.keys(names) as Value[];
  return (
    <Form.Group controlId={id} className={className}>
      <Form.Label>{label}</Form.Label>
      <Form.Select
        value={value}
        isInvalid={Boolean(problem)}
        onChange={(event) => onChange(offered.find((one) => one === event.target.value) ?? value)}
      >
        {offered.map((one) => (
          <option key={one} value={one}>
            {names[one]}
          </option>
        ))}
      </Form.Select>
      <Form.Control.Feedback type="invalid">{problem}</Form.Control.Feedback>
    </Form.Group>
  );
}
