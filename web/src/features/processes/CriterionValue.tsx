import { type ConditionKind, type Field, type Operand, operandField, type Term } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { Options } from '../../parts/Options.tsx';
import { FieldInput } from '../fields/FieldInput.tsx';
import { useGetPeopleQuery, useGetTeamsQuery } from '../session/sessionApi.ts';
import { type RuleValue, startingValue } from './criterionQuery.ts';
import { useDesign } from './designContext.ts';
import { useDesignNames } from './useDesignNames.ts';

interface CriterionValueProps {
  readonly operand: Operand;
  readonly kind: ConditionKind;
  readonly value: RuleValue | undefined;
  readonly onChange: (value: RuleValue) => void;
}

/** What an operand is compared with: a value, another field, a day from today, a range, a list or a text. */
export function CriterionValue({ operand, kind, value: given, onChange }: CriterionValueProps) {
  const { catalogue } = useDesign();
  const field = useOperandField(operand);
  const value = given && typeof given === 'object' && 'kind' in given ? given : startingValue(operand, kind, catalogue);
  if (!field) return null;
  switch (value.kind) {
    case 'none':
      return null;
    case 'term':
      return <TermInput field={field} term={value.term} onChange={(term) => onChange({ kind: 'term', term })} />;
    case 'range':
      return (
        <>
          <TermInput field={field} term={value.low} place="low" onChange={(low) => onChange({ ...value, low })} />
          <span className="small muted">and</span>
          <TermInput field={field} term={value.high} place="high" onChange={(high) => onChange({ ...value, high })} />
        </>
      );
    case 'list':
      return (
        <ListInput field={field} values={value.values} onChange={(values) => onChange({ kind: 'list', values })} />
      );
    case 'text':
      return (
        <Form.Control
          size="sm"
          aria-label="Text"
          value={value.text}
          maxLength={500}
          onChange={(event) => onChange({ kind: 'text', text: event.target.value })}
        />
      );
  }
}

/** What an operand reads, as a field: the results of a step are its choices. */
function useOperandField(operand: Operand): Field | null {
  const { catalogue, document } = useDesign();
  const nameOf = useDesignNames();
  const field = operandField(operand, catalogue, nameOf);
  if (!field || operand.of !== 'step' || operand.what !== 'result') return field;
  const step = document.stages.flatMap(({ steps }) => steps).find(({ id }) => id === operand.step);
  return { ...field, choices: step?.results.map(({ id, name }) => ({ id, name })) ?? [] };
}

interface TermInputProps {
  readonly field: Field;
  readonly term: Term;
  /** Which of a range's ends it is. */
  readonly place?: 'only' | 'low' | 'high';
  readonly onChange: (term: Term) => void;
}

function TermInput({ field, term, place = 'only', onChange }: TermInputProps) {
  const { catalogue, document } = useDesign();
  const alike = [...catalogue.values()].filter(({ id, type }) => id !== field.id && type === field.type);
  return (
    <span className="term">
      <SourceChoice field={field} alike={alike} term={term} onChange={onChange} />
      {term.of === 'today' && <TodayInput plus={term.plus} onChange={(plus) => onChange({ of: 'today', plus })} />}
      {term.of === 'field' && (
        <Form.Select
          size="sm"
          aria-label="Other field"
          value={term.field}
          onChange={(event) => onChange({ of: 'field', field: event.target.value })}
        >
          <Options of={alike} />
        </Form.Select>
      )}
      {term.of === 'value' && (
        <FieldInput
          id={`value-${field.id}-${place}`}
          field={field.type === 'calculated' ? { ...field, type: 'number' } : field}
          value={term.value}
          currency={document.currency}
          names={{}}
          saves="as_written"
          onSave={(value) => onChange({ of: 'value', value })}
        />
      )}
    </span>
  );
}

interface SourceChoiceProps extends Pick<TermInputProps, 'field' | 'term' | 'onChange'> {
  /** Other fields of the same type. */
  readonly alike: readonly Field[];
}

/** What is compared with: a value, today, or another field; nothing to choose where only a value will do. */
function SourceChoice({ field, alike, term, onChange }: SourceChoiceProps) {
  const sources = [
    ...(field.type === 'date' ? [{ id: 'today', name: 'today' }] : []),
    { id: 'value', name: 'a value' },
    ...(alike.length > 0 ? [{ id: 'field', name: 'another field' }] : []),
  ];
  const start = (of: string): Term => {
    if (of === 'today') return { of: 'today', plus: 0 };
    return of === 'field' ? { of: 'field', field: alike[0]?.id ?? '' } : { of: 'value', value: null };
  };
  if (sources.length === 1) return null;
  return (
    <Form.Select
      size="sm"
      aria-label="Compared with"
      value={term.of}
      onChange={(event) => onChange(start(event.target.value))}
    >
      <Options of={sources} />
    </Form.Select>
  );
}

function TodayInput({ plus, onChange }: { plus: number; onChange: (plus: number) => void }) {
  return (
    <>
      <Form.Control
        size="sm"
        type="number"
        aria-label="Days from today"
        value={Math.abs(plus)}
        min={0}
        max={36_500}
        onChange={(event) => onChange(Math.sign(plus || 1) * Math.abs(Math.round(Number(event.target.value))))}
      />
      <Form.Select
        size="sm"
        aria-label="Before or after today"
        value={plus < 0 ? 'before' : 'after'}
        onChange={(event) => onChange((event.target.value === 'before' ? -1 : 1) * Math.abs(plus))}
      >
        <option value="after">days after today</option>
        <option value="before">days before today</option>
      </Form.Select>
    </>
  );
}

interface ListInputProps {
  readonly field: Field;
  readonly values: readonly string[];
  readonly onChange: (values: readonly string[]) => void;
}

function ListInput(props: ListInputProps) {
  return props.field.type === 'text' ? <TextList {...props} /> : <ChoiceList {...props} />;
}

const textsOf = (written: string): readonly string[] =>
  written
    .split(';')
    .map((text) => text.trim())
    .filter((text) => text !== '');

function TextList({ values, onChange }: ListInputProps) {
  return (
    <Form.Control
      size="sm"
      aria-label="Texts, separated by semicolons"
      placeholder="one; another"
      defaultValue={values.join('; ')}
      onChange={(event) => onChange(textsOf(event.target.value))}
    />
  );
}

function ChoiceList({ field, values, onChange }: ListInputProps) {
  const { data: people } = useGetPeopleQuery(undefined, { skip: field.type !== 'person' });
  const { data: teams } = useGetTeamsQuery(undefined, { skip: field.type !== 'team' });
  const offered = field.choices ?? (field.type === 'person' ? people?.items : teams?.items) ?? [];
  const toggle = (id: string) => onChange(values.includes(id) ? values.filter((one) => one !== id) : [...values, id]);
  return (
    <span className="list-value">
      {offered.map(({ id, name }) => (
        <Form.Check
          inline
          key={id}
          id={`list-${field.id}-${id}`}
          label={name}
          checked={values.includes(id)}
          onChange={() => toggle(id)}
        />
      ))}
    </span>
  );
}
