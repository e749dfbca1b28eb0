import { type Criterion, checkCriterion, type Requirement, sentence } from '@ladder/core';
import { type FormEvent, useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { CriterionEditor } from './CriterionEditor.tsx';
import { startingCriterion } from './criterionQuery.ts';
import { newKey, useDesign } from './designContext.ts';

interface RequirementDialogProps {
  /** Null for a new one. */
  readonly requirement: Requirement | null;
  readonly onSave: (requirement: Requirement) => void;
  readonly onClose: () => void;
}

interface RequirementForm {
  readonly kind: Requirement['kind'];
  readonly level: Requirement['level'];
  readonly binds: Requirement['binds'];
  readonly criterion: Criterion;
  readonly field: string;
  readonly appliesWhen: Criterion | null;
  readonly message: string;
}

/** One requirement: what must be so, whether it holds or flags, how long it binds, for which deals, and in whose words. */
export function RequirementDialog({ requirement, onSave, onClose }: RequirementDialogProps) {
  const { catalogue } = useDesign();
  const [form, setForm] = useState<RequirementForm>(() => toForm(requirement, startingCriterion(catalogue)));
  const [isAsked, setAsked] = useState(false);
  const set = (change: Partial<RequirementForm>) => setForm((old) => ({ ...old, ...change }));
  const problems = [
    ...(form.kind === 'criterion'
      ? checkCriterion(form.criterion, catalogue)
      : form.field === ''
        ? [{ pointer: '/field', detail: 'Choose the field.' }]
        : []),
    ...(form.appliesWhen ? checkCriterion(form.appliesWhen, catalogue, '/appliesWhen') : []),
  ];
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setAsked(true);
    if (problems.length === 0) onSave(fromForm(form, requirement?.id ?? newKey()));
  };
  return (
    <Modal show size="lg" onHide={onClose} centered aria-labelledby="requirement-title">
      <Form onSubmit={submit} noValidate>
        <Modal.Header closeButton>
          <h2 id="requirement-title">{requirement ? 'Change the requirement' : 'New requirement'}</h2>
        </Modal.Header>
        <Modal.Body className="requirement-form">
          <KindChoice form={form} set={set} />
          {form.kind === 'field' && <FieldChoice form={form} set={set} />}
          {form.kind === 'criterion' && (
            <>
              <CriterionEditor
                label="What must be so"
                criterion={form.criterion}
                onChange={(criterion) => set({ criterion })}
              />
              <p className="says" role="status">
                {sentence(form.criterion, catalogue, () => undefined)}.
              </p>
            </>
          )}
          <LevelChoice form={form} set={set} />
          <AppliesWhen form={form} set={set} />
          <Form.Group controlId="requirement-message">
            <Form.Label>In your words to the seller, if you like</Form.Label>
            <Form.Control
              maxLength={2000}
              value={form.message}
              onChange={(event) => set({ message: event.target.value })}
            />
          </Form.Group>
          {isAsked && problems.length > 0 && (
            <div className="notice bad" role="alert">
              {problems.map(({ pointer, detail }) => (
                <div key={pointer}>{detail}</div>
              ))}
            </div>
          )}
        </Modal.Body>
        <Modal.Footer>
          <Button variant="outline-secondary" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit">{requirement ? 'Change it' : 'Add it'}</Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}

function toForm(requirement: Requirement | null, starting: Criterion): RequirementForm {
  return {
    kind: requirement?.kind ?? 'criterion',
    level: requirement?.level ?? 'hold',
    binds: requirement?.binds ?? 'at_move',
    criterion: requirement?.kind === 'criterion' ? requirement.criterion : starting,
    field: requirement?.kind === 'field' ? requirement.field : '',
    appliesWhen: requirement?.appliesWhen ?? null,
    message: requirement?.message ?? '',
  };
}

function fromForm(
  { kind, level, binds, criterion, field, appliesWhen, message }: RequirementForm,
  id: string,
): Requirement {
  const base = {
    id,
    level,
    binds,
    ...(appliesWhen ? { appliesWhen } : {}),
    ...(message.trim() ? { message: message.trim() } : {}),
  };
  return kind === 'criterion' ? { ...base, kind, criterion } : { ...base, kind, field };
}

interface PartProps {
  readonly form: RequirementForm;
  readonly set: (change: Partial<RequirementForm>) => void;
}

/** Fields must stay so by default, criteria are judged at the move (S14). */
function KindChoice({ form, set }: PartProps) {
  return (
    <fieldset className="choice-row">
      <legend className="form-label">What is asked</legend>
      <Form.Check
        inline
        type="radio"
        name="kind"
        id="kind-criterion"
        label="A criterion is met"
        checked={form.kind === 'criterion'}
        onChange={() => set({ kind: 'criterion', binds: 'at_move' })}
      />
      <Form.Check
        inline
        type="radio"
        name="kind"
        id="kind-field"
        label="A field is filled"
        checked={form.kind === 'field'}
        onChange={() => set({ kind: 'field', binds: 'must_stay' })}
      />
    </fieldset>
  );
}

function FieldChoice({ form, set }: PartProps) {
  const { catalogue } = useDesign();
  return (
    <Form.Group controlId="requirement-field">
      <Form.Label>Field</Form.Label>
      <Form.Select value={form.field} onChange={(event) => set({ field: event.target.value })}>
        <option value="">Choose…</option>
        {[...catalogue.values()].map(({ id, name, holder }) => (
          <option key={id} value={id}>
            {name}
            {holder === 'deal' ? '' : ` (${holder})`}
          </option>
        ))}
      </Form.Select>
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

function LevelChoice({ form, set }: PartProps) {
  return (
    <div className="panel-duo">
      <RadioRow
        legend="Where it is not met"
        name="level"
        options={LEVELS}
        chosen={form.level}
        onChoose={(level) => set({ level })}
      />
      <RadioRow
        legend="How long it binds"
        name="binds"
        options={BINDINGS}
        chosen={form.binds}
        onChoose={(binds) => set({ binds })}
      />
    </div>
  );
}

function AppliesWhen({ form, set }: PartProps) {
  const { catalogue } = useDesign();
  return (
    <div>
      <Form.Check
        id="applies-some"
        label="Ask it of some deals only"
        checked={form.appliesWhen !== null}
        onChange={(event) => set({ appliesWhen: event.target.checked ? startingCriterion(catalogue) : null })}
      />
      {form.appliesWhen && (
        <>
          <CriterionEditor
            label="Of which deals"
            criterion={form.appliesWhen}
            onChange={(appliesWhen) => set({ appliesWhen })}
          />
          <p className="says">Asked where: {sentence(form.appliesWhen, catalogue, () => undefined)}.</p>
        </>
      )}
    </div>
  );
}
