import {
  type Catalogue,
  catalogueOf,
  describeFormulaProblem,
  type Field,
  type FieldHolder,
  type Formula,
  type FormulaProblem,
  formulaOperands,
  readFormula,
  writeFormula,
} from '@ladder/core';
import { type KeyboardEvent, useId, useMemo, useRef, useState } from 'react';
import { Form } from 'react-bootstrap';
import { begunAt, completed, completions } from './completion.ts';
import { FormulaExample } from './FormulaExample.tsx';
import { useGetFieldsQuery } from './fieldsApi.ts';

interface FormulaBoxProps {
  /** A formula reads the record it belongs to, and no other. */
  readonly holder: FieldHolder;
  /** The calculated number that it is of, where there is one. */
  readonly field?: string;
  /** What stands in it at first. */
  readonly begin: Formula | null;
  /** What the server, or the form, says of it beside what is wrong with the text. */
  readonly problem?: string | undefined;
  /** Told with each change; null while it is no formula. */
  readonly onChange: (formula: Formula | null) => void;
}

/** Arithmetic written by hand: names are completed, it is read as it is written, and shown on an example. */
export function FormulaBox(props: FormulaBoxProps) {
  const { data } = useGetFieldsQuery();
  const catalogue = useMemo(() => (data ? catalogueOf(data.items) : null), [data]);
  return catalogue && <WrittenFormula {...props} catalogue={catalogue} />;
}

function WrittenFormula({
  holder,
  field,
  begin,
  problem,
  onChange,
  catalogue,
}: FormulaBoxProps & { readonly catalogue: Catalogue }) {
  const [text, setText] = useState(() => (begin ? writeFormula(begin, catalogue) : ''));
  const place = { catalogue, holder, field };
  const read = readFormula(text, place);
  const put = (next: string) => {
    setText(next);
    const formula = readFormula(next, place);
    onChange(formula.ok ? formula.value : null);
  };
  const isBegun = text.trim() !== '';
  return (
    <div className="formula-box">
      <FormulaInput text={text} operands={formulaOperands(place)} isWrong={isBegun && !read.ok} onChange={put} />
      {isBegun && !read.ok && <Fault text={text} problem={read.error} />}
      {problem && (read.ok || !isBegun) && (
        <div className="text-held small" role="alert">
          {isBegun ? problem : 'Write what it is worked out from, such as Value ÷ 12.'}
        </div>
      )}
      {read.ok && <FormulaExample formula={read.value} holder={holder} catalogue={catalogue} />}
      <p className="muted small mb-0">
        Names of number and money fields, numbers, + − × ÷ and parentheses. Money counts in whole units. It is empty
        while a field that it reads is empty.
      </p>
    </div>
  );
}

/** What is wrong, with the place marked. */
function Fault({ text, problem }: { text: string; problem: FormulaProblem }) {
  const { at, length } = problem;
  return (
    <div className="formula-fault small" role="status">
      <span className="formula-text">
        {text.slice(0, at)}
        <mark>{text.slice(at, at + length) || '…'}</mark>
        {text.slice(at + length)}
      </span>
      <span className="text-held">{describeFormulaProblem(problem)}</span>
    </div>
  );
}

interface FormulaInputProps {
  readonly text: string;
  readonly operands: readonly Field[];
  readonly isWrong: boolean;
  readonly onChange: (text: string) => void;
}

function FormulaInput({ text, operands, isWrong, onChange }: FormulaInputProps) {
  const id = useId();
  const box = useRef<HTMLInputElement>(null);
  const [cursor, setCursor] = useState<number | null>(null);
  const [chosen, setChosen] = useState(0);
  const offered = cursor === null ? [] : completions(begunAt(text, cursor), operands);
  const place = Math.min(chosen, offered.length - 1);
  const take = (field: Field) => {
    const done = completed(text, cursor ?? text.length, field);
    onChange(done.text);
    setCursor(null);
    requestAnimationFrame(() => box.current?.setSelectionRange(done.cursor, done.cursor));
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step !== undefined && offered.length === 0) setCursor(box.current?.selectionStart ?? text.length);
    if (step !== undefined) setChosen((place + step + offered.length) % Math.max(offered.length, 1));
    const field = offered[place];
    const isTaking = field && (event.key === 'Enter' || event.key === 'Tab');
    if (isTaking) take(field);
    const isLeaving = event.key === 'Escape' && offered.length > 0;
    if (isLeaving) setCursor(null);
    if (step !== undefined || isTaking || isLeaving) {
      event.preventDefault();
      event.stopPropagation();
    }
  };
  return (
    <Form.Group className="formula-input">
      <Form.Label htmlFor={id}>Worked out as</Form.Label>
      <Form.Control
        id={id}
        ref={box}
        role="combobox"
        aria-expanded={offered.length > 0}
        aria-controls={`${id}-names`}
        aria-autocomplete="list"
        aria-activedescendant={offered.length > 0 ? `${id}-${place}` : undefined}
        autoComplete="off"
        spellCheck={false}
        placeholder="such as Value ÷ Glazed area"
        isInvalid={isWrong}
        value={text}
        onChange={({ target }) => {
          onChange(target.value);
          setCursor(target.selectionStart ?? target.value.length);
          setChosen(0);
        }}
        onKeyDown={onKeyDown}
        onBlur={() => setCursor(null)}
      />
      <div
        id={`${id}-names`}
        className="formula-names"
        aria-label="Names of fields"
        role="listbox"
        hidden={offered.length === 0}
      >
        {offered.map((field, at) => (
          <div
            key={field.id}
            id={`${id}-${at}`}
            role="option"
            tabIndex={-1}
            aria-selected={at === place}
            onPointerDown={(event) => {
              event.preventDefault();
              take(field);
            }}
          >
            {field.name} {field.unit && <span className="muted">{field.unit}</span>}
          </div>
        ))}
      </div>
    </Form.Group>
  );
}
