import { type Requirement, requirementProblems, sentence } from '@ladder/core';
import { type FormEvent, useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { DialogEnd } from '../../parts/form/DialogEnd.tsx';
import { newKey } from '../../parts/newKey.ts';
import { CriterionEditor } from './CriterionEditor.tsx';
import { startingCriterion } from './criterionQuery.ts';
import { useDesign } from './designContext.ts';
import { editorOf, REQUIREMENT_EDITORS } from './requirements/editors.ts';
import { useDesignNames } from './useDesignNames.ts';

interface RequirementDialogProps {
  /** Null for a new one. */
  readonly requirement: Requirement | null;
  readonly onSave: (requirement: Requirement) => void;
  readonly onClose: () => void;
}

/** One requirement: what must be so, whether it holds or flags, how long it binds, for which deals, and in whose words. */
export function RequirementDialog({ requirement: before, onSave, onClose }: RequirementDialogProps) {
  const { catalogue } = useDesign();
  const nameOf = useDesignNames();
  const { requirement, change, choose } = useRequirement(before);
  const [isAsked, setAsked] = useState(false);
  const problems = requirementProblems(requirement, catalogue, '', nameOf);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setAsked(true);
    if (problems.length === 0) onSave(tidied(requirement));
  };
  const { Editor } = editorOf(requirement.kind);
  return (
    <Modal show size="lg" onHide={onClose} centered aria-labelledby="requirement-title">
      <Form onSubmit={submit} noValidate>
        <Modal.Header closeButton>
          <h2 id="requirement-title">{before ? 'Change the requirement' : 'New requirement'}</h2>
        </Modal.Header>
        <Modal.Body className="requirement-form">
          <KindChoice chosen={requirement.kind} onChoose={choose} />
          <Editor requirement={requirement} onChange={change} />
          <LevelChoice requirement={requirement} onChange={change} />
          <AppliesWhen requirement={requirement} onChange={change} />
          <Message requirement={requirement} onChange={change} />
          {isAsked && <Problems problems={problems} />}
        </Modal.Body>
        <DialogEnd onCancel={onClose}>
          <Button type="submit">{before ? 'Change it' : 'Add it'}</Button>
        </DialogEnd>
      </Form>
    </Modal>
  );
}

/** The requirement as it is being written. What was chosen for one kind is still there after a look at another. */
function useRequirement(before: Requirement | null) {
  const { catalogue } = useDesign();
  const fresh = (kind: Requirement['kind'], id: string): Requirement => {
    const { start, binds } = editorOf(kind);
    return { ...start(catalogue), id, level: 'hold', binds } as Requirement;
  };
  const [requirement, change] = useState<Requirement>(() => before ?? fresh('criterion', newKey()));
  const [left, setLeft] = useState<Partial<Record<Requirement['kind'], Requirement>>>({});
  const choose = (kind: Requirement['kind']) => {
    const { id, level, appliesWhen, message } = requirement;
    const { binds } = editorOf(kind);
    setLeft({ ...left, [requirement.kind]: requirement });
    change({ ...(left[kind] ?? fresh(kind, id)), level, binds, appliesWhen, message } as Requirement);
  };
  return { requirement, change, choose };
}

/** Without what says nothing. */
function tidied({ appliesWhen, message = '', ...rest }: Requirement): Requirement {
  const words = message.trim();
  return { ...rest, ...(appliesWhen ? { appliesWhen } : {}), ...(words ? { message: words } : {}) } as Requirement;
}

function Problems({ problems }: { problems: ReturnType<typeof requirementProblems> }) {
  if (problems.length === 0) return null;
  return (
    <div className="notice bad" role="alert">
      {problems.map(({ pointer, detail }) => (
        <div key={pointer}>{detail}</div>
      ))}
    </div>
  );
}

interface KindChoiceProps {
  readonly chosen: Requirement['kind'];
  readonly onChoose: (kind: Requirement['kind']) => void;
}

function KindChoice({ chosen, onChoose }: KindChoiceProps) {
  const options = REQUIREMENT_EDITORS.map(({ kind, label }) => [kind, label] as const);
  return <RadioRow legend="What is asked" name="kind" options={options} chosen={chosen} onChoose={onChoose} />;
}

interface PartProps {
  readonly requirement: Requirement;
  readonly onChange: (requirement: Requirement) => void;
}

function Message({ requirement, onChange }: PartProps) {
  return (
    <Form.Group controlId="requirement-message">
      <Form.Label>In your words to the seller, if you like</Form.Label>
      <Form.Control
        maxLength={2000}
        value={requirement.message ?? ''}
        onChange={(event) => onChange({ ...requirement, message: event.target.value })}
      />
    </Form.Group>
  );
}

const LEVELS = [
  ['hold', 'hold the move'],
  ['flag', 'flag the deal'],
] as const;
const BINDINGS = [
  ['at_move', 'at the move'],
  ['must_stay', 'must stay so'],
] as const;

interface RadioRowProps<Value extends string> {
  readonly legend: string;
  readonly name: string;
  readonly options: readonly (readonly [Value, string])[];
  readonly chosen: Value;
  readonly onChoose: (value: Value) => void;
}

function RadioRow<Value extends string>({ legend, name, options, chosen, onChoose }: RadioRowProps<Value>) {
  return (
    <fieldset className="choice-row">
      <legend className="form-label">{legend}</legend>
      {options.map(([value, label]) => (
        <Form.Check
          inline
          key={value}
          type="radio"
          name={name}
          id={`${name}-${value}`}
          label={label}
          checked={chosen === value}
          onChange={() => onChoose(value)}
        />
      ))}
    </fieldset>
  );
}

function LevelChoice({ requirement, onChange }: PartProps) {
  return (
    <div className="panel-duo">
      <RadioRow
        legend="Where it is not met"
        name="level"
        options={LEVELS}
        chosen={requirement.level}
        onChoose={(level) => onChange({ ...requirement, level })}
      />
      <RadioRow
        legend="How long it binds"
        name="binds"
        options={BINDINGS}
        chosen={requirement.binds}
        onChoose={(binds) => onChange({ ...requirement, binds })}
      />
    </div>
  );
}

function AppliesWhen({ requirement, onChange }: PartProps) {
  const { catalogue } = useDesign();
  const nameOf = useDesignNames();
  const { appliesWhen, ...always } = requirement;
  const ask = (isSome: boolean) =>
    onChange((isSome ? { ...always, appliesWhen: startingCriterion(catalogue) } : always) as Requirement);
  return (
    <div>
      <Form.Check
        id="applies-some"
        label="Ask it of some deals only"
        checked={appliesWhen !== undefined}
        onChange={(event) => ask(event.target.checked)}
      />
      {appliesWhen && (
        <>
          <CriterionEditor
            label="Of which deals"
            criterion={appliesWhen}
            onChange={(criterion) => onChange({ ...requirement, appliesWhen: criterion })}
          />
          <p className="says">Asked where: {sentence(appliesWhen, catalogue, nameOf)}.</p>
        </>
      )}
    </div>
  );
}
