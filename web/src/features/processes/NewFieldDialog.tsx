import { FIRST_DAY, type FieldHolder, type Formula, LAST_DAY, type OWN_FIELD_TYPES } from '@ladder/core';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { problemAt, problemOf } from '../../client/api.ts';
import { useAppDispatch } from '../../client/hooks.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';
import { shortDay } from '../../parts/format.ts';
import { SelectField } from '../../parts/SelectField.tsx';
import { TextField } from '../../parts/TextField.tsx';
import { newKey } from './designContext.ts';
import { FormulaEditor } from './FormulaEditor.tsx';
import { processesApi, useAddFieldMutation } from './processesApi.ts';

const TYPE_NAMES: Readonly<Record<(typeof OWN_FIELD_TYPES)[number], string>> = {
  text: 'Text',
  long_text: 'Long text',
  number: 'Number',
  money: 'Money',
  date: 'Date',
  yes_no: 'Yes or no',
  choice: 'Choice',
  choices: 'Several choices',
  person: 'Person',
  link: 'Link',
  calculated: 'Calculated number',
};

const HOLDER_NAMES: Readonly<Record<FieldHolder, string>> = {
  deal: 'the deal',
  customer: 'the customer, for all its deals',
  contact: 'the contact, for all its deals',
};

const DAY_BOUNDS = ['firstDay', 'lastDay'] as const;
const DAY_LABELS = {
  firstDay: `Not before (${shortDay(FIRST_DAY, '')} where this is empty)`,
  lastDay: `Not after (${shortDay(LAST_DAY, '')} where this is empty)`,
} as const;

interface FieldForm {
  readonly name: string;
  readonly type: (typeof OWN_FIELD_TYPES)[number];
  readonly holder: FieldHolder;
  readonly unit: string;
  /** One a line. */
  readonly choices: string;
  readonly firstDay: string;
  readonly lastDay: string;
  readonly formula: Formula | null;
}

const EMPTY: FieldForm = {
  name: '',
  type: 'text',
  holder: 'deal',
  unit: '',
  choices: '',
  firstDay: '',
  lastDay: '',
  formula: null,
};

const isChoice = ({ type }: FieldForm): boolean => type === 'choice' || type === 'choices';
const hasUnit = ({ type }: FieldForm): boolean => type === 'number' || type === 'calculated';

/** A new field goes into the catalogue that all processes share. */
export function NewFieldDialog({ onClose }: { onClose: () => void }) {
  const [addField, { error, isLoading }] = useAddFieldMutation();
  const [form, setForm] = useState(EMPTY);
  const dispatch = useAppDispatch();
  const set = (made: Partial<FieldForm>) => setForm((old) => ({ ...old, ...made }));
  const problem = problemOf(error);
  const submit = async () => {
    const answer = await addField(toField(form));
    if (!answer.data) return;
    dispatch(processesApi.util.invalidateTags(['Draft']));
    onClose();
  };
  return (
    <FormDialog
      title="New field"
      confirm="Add the field"
      isBusy={isLoading}
      error={error}
      onSubmit={submit}
      onClose={onClose}
    >
      <p className="muted small">All processes can use it. Its type and unit stay for good.</p>
      <TextField
        id="field-name"
        label="Name"
        autoFocus
        max={200}
        value={form.name}
        problem={problemAt(problem, '/name')}
        onChange={(name) => set({ name })}
      />
      <SelectField
        id="field-holder"
        label="Kept with"
        value={form.holder}
        names={HOLDER_NAMES}
        onChange={(holder) => set({ holder })}
      />
      <SelectField
        id="field-type"
        label="Type"
        value={form.type}
        names={TYPE_NAMES}
        onChange={(type) => set({ type })}
      />
      <TypeDetails form={form} set={set} problem={problem} />
    </FormDialog>
  );
}

const linesOf = (text: string): readonly string[] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '');

/** Only what the chosen type has goes along; what was written for another one does not. */
function toField(form: FieldForm): Parameters<ReturnType<typeof useAddFieldMutation>[0]>[0] {
  const { holder, type, firstDay, lastDay, formula } = form;
  const unit = form.unit.trim();
  return {
    holder,
    type,
    name: form.name.trim(),
    ...(unit && hasUnit(form) ? { unit } : {}),
    ...(type === 'date' && firstDay ? { firstDay } : {}),
    ...(type === 'date' && lastDay ? { lastDay } : {}),
    ...(isChoice(form) ? { choices: linesOf(form.choices).map((name) => ({ id: newKey(), name })) } : {}),
    ...(type === 'calculated' && formula ? { formula } : {}),
  };
}

interface TypeDetailsProps {
  readonly form: FieldForm;
  readonly set: (made: Partial<FieldForm>) => void;
  readonly problem: ReturnType<typeof problemOf>;
}

/** What a type needs beside its name. */
function TypeDetails({ form, set, problem }: TypeDetailsProps) {
  return (
    <>
      {hasUnit(form) && (
        <TextField id="field-unit" label="Unit, if any" max={20} value={form.unit} onChange={(unit) => set({ unit })} />
      )}
      {form.type === 'date' &&
        DAY_BOUNDS.map((bound) => (
          <TextField
            key={bound}
            id={`field-${bound}`}
            label={DAY_LABELS[bound]}
            type="date"
            max={10}
            value={form[bound]}
            problem={problemAt(problem, `/${bound}`)}
            onChange={(day) => set({ [bound]: day })}
          />
        ))}
      {form.type === 'calculated' && (
        <FormulaEditor
          key={form.holder}
          holder={form.holder}
          problem={problemAt(problem, '/formula')}
          onChange={(formula) => set({ formula })}
        />
      )}
      {isChoice(form) && <ChoiceLines form={form} set={set} problem={problem} />}
    </>
  );
}

function ChoiceLines({ form, set, problem }: TypeDetailsProps) {
  const wrong = problemAt(problem, '/choices');
  return (
    <Form.Group controlId="field-choices">
      <Form.Label>Choices, one a line</Form.Label>
      <Form.Control
        as="textarea"
        rows={4}
        value={form.choices}
        isInvalid={wrong !== undefined}
        onChange={(event) => set({ choices: event.target.value })}
      />
      <Form.Control.Feedback type="invalid">{wrong}</Form.Control.Feedback>
    </Form.Group>
  );
}
