import {
  type GuidedStep,
  type Lead,
  MOST_RESULTS,
  newResult,
  type Stage,
  type StageId,
  type StepResult,
} from '@ladder/core';
import { Button, Form } from 'react-bootstrap';
import { newKey } from '../../../parts/newKey.ts';
import { useDesign } from '../designContext.ts';
import { ActionsEditor } from './ActionsEditor.tsx';
import { shifted } from './shifted.ts';

interface ResultsEditorProps {
  readonly step: GuidedStep;
  readonly stage: Stage;
  readonly onChange: (step: GuidedStep) => void;
}

/** How a step can end, and where each result leads. */
export function ResultsEditor({ step, stage, onChange }: ResultsEditorProps) {
  const { results } = step;
  const put = (changed: readonly StepResult[]) => onChange({ ...step, results: changed });
  const add = () => put([...results, newResult({ id: newKey(), name: '' })]);
  return (
    <fieldset className="step-parts">
      <legend className="form-label">Results</legend>
      {results.map((result, place) => (
        <ResultRow
          key={result.id}
          result={result}
          place={place}
          step={step}
          stage={stage}
          onChange={(changed) => put(results.map((one) => (one.id === result.id ? changed : one)))}
          onUp={place === 0 ? null : () => put(shifted(results, place, place - 1))}
          onRemove={() => put(results.filter(({ id }) => id !== result.id))}
        />
      ))}
      {results.length < MOST_RESULTS && (
        <Button variant="outline-secondary" size="sm" onClick={add}>
          Add a result
        </Button>
      )}
    </fieldset>
  );
}

interface RowProps {
  readonly result: StepResult;
  readonly place: number;
  readonly step: GuidedStep;
  readonly stage: Stage;
  readonly onChange: (result: StepResult) => void;
  readonly onUp: (() => void) | null;
  readonly onRemove: () => void;
}

function ResultRow({ result, place, step, stage, onChange, onUp, onRemove }: RowProps) {
  const name = result.name || `result ${place + 1}`;
  return (
    <div className="step-result">
      <Form.Control
        size="sm"
        aria-label={`Name of result ${place + 1}`}
        placeholder="Name"
        value={result.name}
        maxLength={120}
        onChange={(event) => onChange({ ...result, name: event.target.value })}
      />
      <LeadChoice result={result} name={name} step={step} stage={stage} onChange={onChange} />
      <Form.Check
        id={`result-captures-${result.id}`}
        label="asks for no fields"
        checked={result.captures === 'not_asked'}
        onChange={(event) => onChange({ ...result, captures: event.target.checked ? 'not_asked' : 'asked' })}
      />
      <span>
        <Button variant="link" size="sm" disabled={!onUp} aria-label={`${name} up`} onClick={() => onUp?.()}>
          Up
        </Button>
        <Button variant="link" size="sm" aria-label={`Remove ${name}`} onClick={onRemove}>
          Remove
        </Button>
      </span>
      <ActionsEditor result={result} name={name} onChange={(actions) => onChange({ ...result, actions })} />
    </div>
  );
}

type LeadChoiceProps = Pick<RowProps, 'result' | 'step' | 'stage' | 'onChange'> & { readonly name: string };

function LeadChoice({ result, name, step, stage, onChange }: LeadChoiceProps) {
  const { document, reasons: offered } = useDesign();
  const { leads } = result;
  const reasons = offered.filter(({ outcome }) => leads.to === 'outcome' && outcome === leads.outcome);
  return (
    <div>
      <Form.Select
        size="sm"
        aria-label={`Where ${name} leads`}
        value={leadKey(leads)}
        onChange={(event) => onChange({ ...result, leads: leadFromKey(event.target.value) })}
      >
        <option value="next">to the next step</option>
        <option value="finish">the steps are finished</option>
        <option value="move_on">the deal moves on</option>
        <optgroup label="To a step">
          {stage.steps.map(({ id, name: other }) => (
            <option key={id} value={`step:${id}`}>
              {id === step.id ? 'this step again' : other}
            </option>
          ))}
        </optgroup>
        <optgroup label="To a stage">
          {document.stages
            .filter(({ id }) => id !== stage.id)
            .map(({ id, name: other }) => (
              <option key={id} value={`stage:${id}`}>
                {other}
              </option>
            ))}
        </optgroup>
        <optgroup label="Close the deal">
          {document.outcomes.map(({ id, name: other }) => (
            <option key={id} value={`outcome:${id}`}>
              as {other.toLowerCase()}
            </option>
          ))}
        </optgroup>
        {isGone(leads, stage, document.stages) && <option value={leadKey(leads)}>to something that is gone</option>}
      </Form.Select>
      {leads.to === 'outcome' && reasons.length > 0 && (
        <Form.Select
          size="sm"
          className="mt-1"
          aria-label={`Reason of ${name}`}
          value={leads.reason ?? ''}
          onChange={(event) => onChange({ ...result, leads: { ...leads, reason: event.target.value || null } })}
        >
          <option value="">asked then</option>
          {reasons.map(({ id, name: reason }) => (
            <option key={id} value={id}>
              {reason}
            </option>
          ))}
        </Form.Select>
      )}
    </div>
  );
}

function isGone(leads: Lead, stage: Stage, stages: readonly Stage[]): boolean {
  if (leads.to === 'step') return !stage.steps.some(({ id }) => id === leads.step);
  return leads.to === 'stage' && !stages.some(({ id }) => id === leads.stage);
}

function leadKey(leads: Lead): string {
  switch (leads.to) {
    case 'step':
      return `step:${leads.step}`;
    case 'stage':
      return `stage:${leads.stage}`;
    case 'outcome':
      return `outcome:${leads.outcome}`;
    case 'next':
    case 'finish':
    case 'move_on':
      return leads.to;
  }
}

function leadFromKey(key: string): Lead {
  const [to, id = ''] = key.split(':');
  switch (to) {
    case 'step':
      return { to, step: id };
    case 'stage':
      return { to, stage: id as StageId };
    case 'outcome':
      return { to, outcome: id, reason: null };
    case 'finish':
    case 'move_on':
      return { to };
    default:
      return { to: 'next' };
  }
}
