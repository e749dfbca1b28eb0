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

/** A new field goes into the catalogue that all processes share. */
export function NewFieldDialog({ onClose }: { onClose: () => void }) {
  const [addField, { error, isLoading }] = useAddFieldMutation();
  const [name, setName] = useState('');
  const [type, setType] = useState<(typeof OWN_FIELD_TYPES)[number]>('text');
  const [holder, setHolder] = useState<FieldHolder>('deal');
  const [unit, setUnit] = useState('');
  const [choices, setChoices] = useState('');
  const [days, setDays] = useState({ firstDay: '', lastDay: '' });
  const [formula, setFormula] = useState<Formula | null>(null);
  const dispatch = useAppDispatch();
  const problem = problemOf(error);
  const isChoice = type === 'choice' || type === 'choices';
  const hasUnit = type === 'number' || type === 'calculated';
  const submit = async () => {
    const names = choices
      .split('\n')
      .map((line) => line.trim())
      .filter((line) => line !== '');
    const answer = await addField({
      holder,
      type,
      name: name.trim(),
      ...(unit.trim() && hasUnit ? { unit: unit.trim() } : {}),
      ...(type === 'date' && days.firstDay ? { firstDay: days.firstDay } : {}),
      ...(type === 'date' && days.lastDay ? { lastDay: days.lastDay } : {}),
      ...(isChoice ? { choices: names.map((choice) => ({ id: newKey(), name: choice })) } : {}),
      ...(type === 'calculated' && formula ? { formula } : {}),
    });
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
        value={name}
        problem={problemAt(problem, '/name')}
        onChange={setName}
      />
      <SelectField id="field-holder" label="Kept with" value={holder} names={HOLDER_NAMES} onChange={setHolder} />
      <SelectField id="field-type" label="Type" value={type} names={TYPE_NAMES} onChange={setType} />
      {hasUnit && <TextField id="field-unit" label="Unit, if any" max={20} value={unit} onChange={setUnit} />}
      {type === 'date' &&
        DAY_BOUNDS.map((bound) => (
          <TextField
            key={bound}
            id={`field-${bound}`}
            label={DAY_LABELS[bound]}
            type="date"
            max={10}
            value={days[bound]}
            problem={problemAt(problem, `/${bound}`)}
            onChange={(day) => setDays({ ...days, [bound]: day })}
          />
        ))}
      {type === 'calculated' && (
        <FormulaEditor key={holder} holder={holder} problem={problemAt(problem, '/formula')} onChange={setFormula} />
      )}
      {isChoice && (
        <Form.Group controlId="field-choices">
          <Form.Label>Choices, one a line</Form.Label>
          <Form.Control
            as="textarea"
            rows={4}
            value={choices}
            isInvalid={Boolean(problemAt(problem, '/choices'))}
            onChange={(event) => setChoices(event.target.value)}
          />
          <Form.Control.Feedback type="invalid">{problemAt(problem, '/choices')}</Form.Control.Feedback>
        </Form.Group>
      )}
    </FormDialog>
  );
}
