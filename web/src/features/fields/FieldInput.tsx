import { type FactValue, type Field, isMoney, valueText } from '@ladder/core';
import { useState } from 'react';
import { Form, InputGroup } from 'react-bootstrap';
import { Options } from '../../parts/Options.tsx';
import { useGetPeopleQuery, useGetTeamsQuery } from '../session/sessionApi.ts';
import { meaning, readText, toText } from './fieldText.ts';
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
  /** Boxes to write in tell their value when they are left, or with every key that leaves one that can be read. */
  readonly saves?: 'when_left' | 'as_written';
  /** Called with a whole value. */
  readonly onSave: (value: FactValue) => void;
  /** Called as what stands in a box cannot be read, or can be again: it would be lost with whatever is sent. */
  readonly onUnread?: (isUnread: boolean) => void;
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
      <Options of={offered} />
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
      <Options of={offered} />
    </SelectBox>
  );
}

/** Text, numbers, amounts, dates and links, written and read. */
function WrittenInput(props: FieldInputProps) {
  const { id, field, value, currency, problem, disabled = false, saves = 'when_left', onSave, onUnread } = props;
  const saved = toText(value);
  const [text, setText] = useState(saved);
  const [ownProblem, setOwnProblem] = useState<string>();
  const read = (written: string) => readText(field, written, isMoney(value) ? value.currency : currency);
  // A value that was saved elsewhere replaces what stands in the box; the same value, or one being written, does not.
  const [known, setKnown] = useState(saved);
  if (known !== saved) {
    setKnown(saved);
    if (meaning(field, text, currency) !== saved) setText(saved);
  }
  const save = () => {
    const result = read(text);
    setOwnProblem(result.ok ? undefined : result.error);
    onUnread?.(!result.ok);
    if (!result.ok) return;
    setText(toText(result.value));
    if (toText(result.value) !== saved) onSave(result.value);
  };
  const write = (written: string) => {
    setText(written);
    const result = read(written);
    if (saves === 'as_written' && result.ok) onSave(result.value);
    if (result.ok && ownProblem) setOwnProblem(undefined);
    onUnread?.(!result.ok);
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
        onChange={(event) => write(event.target.value)}
        onBlur={save}
        onKeyDown={(event) => event.key === 'Enter' && field.type !== 'long_text' && save()}
      />
      {unit && <InputGroup.Text>{unit}</InputGroup.Text>}
      <Form.Control.Feedback type="invalid">{shown}</Form.Control.Feedback>
    </InputGroup>
  );
}
