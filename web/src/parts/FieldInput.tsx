import { amountToMinor, type FactValue, type Field, isMoney, valueText } from '@ladder/core';
import { useEffect, useState } from 'react';
import { Form, InputGroup } from 'react-bootstrap';
import { useGetPeopleQuery, useGetTeamsQuery } from '../features/session/sessionApi.ts';
import { plainAmount } from './format.ts';
import { PartyPicker } from './PartyPicker.tsx';

export interface FieldInputProps {
  readonly field: Field;
  readonly value: FactValue;
  readonly currency: string;
  /** Names of people, teams, customers and contacts by id. */
  readonly names: Readonly<Record<string, string>>;
  readonly problem?: string | undefined;
  readonly disabled?: boolean;
  readonly id: string;
  /** Called with a whole value: when a choice is made, or when a text box is left. */
  readonly onSave: (value: FactValue) => void;
}

/** The input that fits a field's type. */
export function FieldInput(props: FieldInputProps) {
  switch (props.field.type) {
    case 'yes_no':
      return <YesNoInput {...props} />;
    case 'choice':
      return <ChoiceInput {...props} />;
    case 'choices':
      return <ChoicesInput {...props} />;
    case 'person':
    case 'team':
      return <PersonInput {...props} />;
    case 'customer':
    case 'contact':
      return <PartyPicker {...props} />;
    case 'calculated':
      return <output id={props.id}>{valueText(props.value, props.field, (id) => props.names[id])}</output>;
    default:
      return <WrittenInput {...props} />;
  }
}

const NOT_FILLED = 'not filled';

function YesNoInput({ value, onSave, ...box }: FieldInputProps) {
  const text = value === true ? 'yes' : value === false ? 'no' : '';
  return (
    <SelectBox {...box} value={text} onChange={(chosen) => onSave(chosen === '' ? null : chosen === 'yes')}>
      <option value="yes">Yes</option>
      <option value="no">No</option>
    </SelectBox>
  );
}

function ChoiceInput({ value, onSave, ...box }: FieldInputProps) {
  const offered = box.field.choices?.filter((choice) => !choice.withdrawn || choice.id === value) ?? [];
  return (
    <SelectBox {...box} value={typeof value === 'string' ? value : ''} onChange={(chosen) => onSave(chosen || null)}>
      {offered.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </SelectBox>
  );
}

interface SelectBoxProps extends Omit<FieldInputProps, 'value' | 'onSave'> {
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly children: React.ReactNode;
}

function SelectBox({ id, field, value, problem, disabled = false, onChange, children }: SelectBoxProps) {
  return (
    <>
      <Form.Select
        id={id}
        aria-label={field.name}
        value={value}
        isInvalid={Boolean(problem)}
        disabled={disabled}
        onChange={(event) => onChange(event.target.value)}
      >
        <option value="">{NOT_FILLED}</option>
        {children}
      </Form.Select>
      <Form.Control.Feedback type="invalid">{problem}</Form.Control.Feedback>
    </>
  );
}

function ChoicesInput({ id, field, value, problem, disabled = false, onSave }: FieldInputProps) {
  const chosen = Array.isArray(value) ? (value as readonly string[]) : [];
  const toggle = (choice: string) =>
    onSave(chosen.includes(choice) ? chosen.filter((one) => one !== choice) : [...chosen, choice]);
  return (
    <fieldset id={id} aria-label={field.name} disabled={disabled}>
      {field.choices
        ?.filter((choice) => !choice.withdrawn || chosen.includes(choice.id))
        .map((choice) => (
          <Form.Check
            inline
            key={choice.id}
            id={`${id}-${choice.id}`}
            label={choice.name}
            checked={chosen.includes(choice.id)}
            onChange={() => toggle(choice.id)}
          />
        ))}
      {problem && <div className="invalid-feedback d-block">{problem}</div>}
    </fieldset>
  );
}

function PersonInput({ value, onSave, ...box }: FieldInputProps) {
  const { data: people } = useGetPeopleQuery(undefined, { skip: box.field.type !== 'person' });
  const { data: teams } = useGetTeamsQuery(undefined, { skip: box.field.type !== 'team' });
  const offered = (box.field.type === 'person' ? people : teams)?.items ?? [];
  const current = typeof value === 'string' ? value : '';
  return (
    <SelectBox {...box} value={current} onChange={(chosen) => onSave(chosen || null)}>
      {current !== '' && !offered.some(({ id }) => id === current) && (
        <option value={current}>{box.names[current] ?? 'Someone who left'}</option>
      )}
      {offered.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </SelectBox>
  );
}

/** Text, numbers, amounts, dates and links: written, then saved when the box is left or Enter is pressed. */
function WrittenInput({ id, field, value, currency, problem, disabled = false, onSave }: FieldInputProps) {
  const saved = toText(value);
  const [text, setText] = useState(saved);
  const [ownProblem, setOwnProblem] = useState<string>();
  // A value that was saved elsewhere replaces what stands in the box; the same value told again does not.
  useEffect(() => setText(saved), [saved]);
  const save = () => {
    if (text === saved) return setOwnProblem(undefined);
    const read = readText(field, text, isMoney(value) ? value.currency : currency);
    setOwnProblem(typeof read === 'object' && read !== null && 'problem' in read ? read.problem : undefined);
    if (!(typeof read === 'object' && read !== null && 'problem' in read)) onSave(read);
  };
  const shown = ownProblem ?? problem;
  const unit = field.type === 'money' ? (isMoney(value) ? value.currency : currency) : field.unit;
  return (
    <InputGroup hasValidation>
      <Form.Control
        id={id}
        aria-label={field.name}
        as={field.type === 'long_text' ? 'textarea' : 'input'}
        type={field.type === 'date' ? 'date' : 'text'}
        inputMode={field.type === 'number' || field.type === 'money' ? 'decimal' : 'text'}
        value={text}
        placeholder={NOT_FILLED}
        disabled={disabled}
        isInvalid={Boolean(shown)}
        onChange={(event) => setText(event.target.value)}
        onBlur={save}
        onKeyDown={(event) => event.key === 'Enter' && field.type !== 'long_text' && save()}
      />
      {unit && <InputGroup.Text>{unit}</InputGroup.Text>}
      <Form.Control.Feedback type="invalid">{shown}</Form.Control.Feedback>
    </InputGroup>
  );
}

function toText(value: FactValue): string {
  if (isMoney(value)) return plainAmount(value);
  return typeof value === 'string' || typeof value === 'number' ? String(value) : '';
}

function readText(field: Field, text: string, currency: string): FactValue | { problem: string } {
  const trimmed = text.trim();
  if (trimmed === '') return null;
  const plain = trimmed.replace(/[\s,£€$]/g, '');
  if (field.type === 'number')
    return Number.isFinite(Number(plain)) ? Number(plain) : { problem: 'This needs a number, such as 1234.5.' };
  if (field.type !== 'money') return trimmed;
  const amount = amountToMinor(plain, currency);
  return amount.ok ? { minor: amount.value, currency } : { problem: 'This needs an amount, such as 1234.50.' };
}
