import './steps.css';
import {
  type FactValue,
  type Field,
  type GuidedStep,
  leadWords,
  type ProcessDocument,
  type Stage,
  type StepResult,
  type Values,
} from '@ladder/core';
import { type ReactNode, useState } from 'react';
import { Form } from 'react-bootstrap';
import { FieldInput } from '../fields/FieldInput.tsx';
import { Markdown } from './Markdown.tsx';

interface StepCardProps {
  readonly id: string;
  readonly process: ProcessDocument;
  readonly stage: Stage;
  readonly step: GuidedStep;
  readonly owed?: 'no' | 'yes';
  /** Beside the name: whose it is, and what else there is to say. */
  readonly about: ReactNode;
  /** At the right: when it is due. */
  readonly due: ReactNode;
  readonly catalogue: ReadonlyMap<string, Field>;
  readonly currency: string;
  readonly names: Readonly<Record<string, string>>;
  readonly values: Values;
  readonly problems: Readonly<Record<string, string>>;
  readonly disabled: boolean;
  /** Whether results are told with the digits that give them. */
  readonly keys?: 'numbered';
  readonly onFill: (field: string, value: FactValue) => void;
  readonly onResult: (result: StepResult) => void;
  /** Below the results. */
  readonly children?: ReactNode;
}

/** A step at hand, as whoever does it sees it: what to do, what to fill in, and how it can end. */
export function StepCard(props: StepCardProps) {
  const { id, step, about, due, onResult, children } = props;
  const [unread, setUnread] = useState<readonly string[]>([]);
  const noteUnread = (field: string, isUnread: boolean) =>
    setUnread((fields) => (isUnread ? [...new Set([...fields, field])] : fields.filter((one) => one !== field)));
  // What cannot be read would be lost: whoever wrote it is led there first.
  const choose = (result: StepResult) => {
    const [first] = result.captures === 'asked' ? unread : [];
    if (first === undefined) onResult(result);
    else document.getElementById(`${id}-${first}`)?.focus();
  };
  return (
    <section className="step-card" aria-labelledby={`${id}-name`} id={id}>
      <header>
        <h3 id={`${id}-name`}>{step.name || 'No name yet'}</h3>
        <span className="small muted">{about}</span>
        <span className="step-due small">{due}</span>
      </header>
      <Markdown>{step.instruction}</Markdown>
      <Captures {...props} onUnread={noteUnread} />
      <Results {...props} onResult={choose} />
      {children}
    </section>
  );
}

interface CapturesProps extends StepCardProps {
  readonly onUnread: (field: string, isUnread: boolean) => void;
}

function Captures(props: CapturesProps) {
  const { id, step, catalogue, currency, names, values, problems, disabled, onFill, onUnread } = props;
  const fields = step.captures.flatMap(({ field, need }) => {
    const known = catalogue.get(field);
    return known ? [{ field: known, need }] : [];
  });
  if (fields.length === 0) return null;
  return (
    <div className="step-captures">
      {fields.map(({ field, need }) => (
        <div key={field.id}>
          <Form.Label htmlFor={`${id}-${field.id}`} title={field.help}>
            {field.name}, <em>{need === 'must' ? 'needed' : 'if known'}</em>
          </Form.Label>
          <FieldInput
            id={`${id}-${field.id}`}
            field={field}
            value={values[field.id] ?? null}
            currency={currency}
            names={names}
            problem={problems[field.id]}
            disabled={disabled}
            saves="as_written"
            onSave={(value) => onFill(field.id, value)}
            onUnread={(isUnread) => onUnread(field.id, isUnread)}
          />
        </div>
      ))}
    </div>
  );
}

/** Results weigh the same: each is a fact, and names where it leads. */
function Results({ process, stage, step, owed = 'no', disabled, keys, onResult }: StepCardProps) {
  return (
    <div className="step-results">
      {step.results.map((result, place) => (
        <button
          key={result.id}
          type="button"
          disabled={disabled}
          {...(keys ? { 'data-key': String(place + 1) } : {})}
          onClick={() => onResult(result)}
        >
          {keys && <kbd aria-hidden>{place + 1}</kbd>}
          <b>{result.name || 'No name yet'}</b>
          <span>{leadWords(process, stage, step.id, result, owed)}</span>
        </button>
      ))}
    </div>
  );
}
