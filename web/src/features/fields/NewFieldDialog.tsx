import { FIRST_DAY, type FieldHolder, type Formula, LAST_DAY, type OWN_FIELD_TYPES } from '@ladder/core';
import { type UseFormReturn, useController } from 'react-hook-form';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { FormSelect } from '../../parts/form/FormSelect.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { shortDay } from '../../parts/format.ts';
import { newKey } from '../../parts/newKey.ts';
import { FormulaBox } from './FormulaBox.tsx';
import { useAddFieldMutation } from './fieldsApi.ts';
import { HOLDER_NAMES, OWN_TYPE_NAMES } from './fieldWords.ts';

const DAY_BOUNDS = ['firstDay', 'lastDay'] as const;
const DAY_LABELS = {
  firstDay: `Not before (${shortDay(FIRST_DAY, '')} where this is empty)`,
  lastDay: `Not after (${shortDay(LAST_DAY, '')} where this is empty)`,
} as const;

interface FieldForm {
  readonly name: string;
  readonly type: (typeof OWN_FIELD_TYPES)[number];
  readonly holder: FieldHolder;
  readonly help: string;
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
  help: '',
  unit: '',
  choices: '',
  firstDay: '',
  lastDay: '',
  formula: null,
};

const isChoice = ({ type }: FieldForm): boolean => type === 'choice' || type === 'choices';
const hasUnit = ({ type }: FieldForm): boolean => type === 'number' || type === 'calculated';

interface NewFieldDialogProps {
  readonly holder?: FieldHolder;
  readonly onAdded?: (id: string) => void;
  readonly onClose: () => void;
}

/** A new field goes into the catalogue that all processes share. */
export function NewFieldDialog({ holder = 'deal', onAdded, onClose }: NewFieldDialogProps) {
  const [addField] = useAddFieldMutation();
  const field = useBodyForm({
    begin: { ...EMPTY, holder },
    schema: ({ facts }) => facts.newField,
    toBody: toField,
    send: addField,
    onDone: ({ id }) => {
      onAdded?.(id);
      onClose();
    },
  });
  const { form } = field;
  return (
    <FormDialog title="New field" confirm="Add the field" of={field} onClose={onClose}>
      <p className="muted small">All processes can use it. Its type and unit stay once it is used.</p>
      <TextField form={form} name="name" id="field-name" label="Name" autoFocus max={200} />
      <FormSelect form={form} name="holder" id="field-holder" label="Kept with" names={HOLDER_NAMES} />
      <FormSelect form={form} name="type" id="field-type" label="Type" names={OWN_TYPE_NAMES} />
      <TypeDetails form={form} />
      <TextField form={form} name="help" id="field-help" label="Help, shown where it is filled" max={2000} rows={2} />
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
  const [unit, help] = [form.unit.trim(), form.help.trim()];
  return {
    holder,
    type,
    name: form.name.trim(),
    ...(help ? { help } : {}),
    ...(unit && hasUnit(form) ? { unit } : {}),
    ...(type === 'date' && firstDay ? { firstDay } : {}),
    ...(type === 'date' && lastDay ? { lastDay } : {}),
    ...(isChoice(form) ? { choices: linesOf(form.choices).map((name) => ({ id: newKey(), name })) } : {}),
    ...(type === 'calculated' && formula ? { formula } : {}),
  };
}

/** What a type needs beside its name. */
function TypeDetails({ form }: { form: UseFormReturn<FieldForm> }) {
  const written = form.watch();
  return (
    <>
      {hasUnit(written) && <TextField form={form} name="unit" id="field-unit" label="Unit, if any" max={20} />}
      {written.type === 'date' &&
        DAY_BOUNDS.map((bound) => (
          <TextField
            key={bound}
            form={form}
            name={bound}
            id={`field-${bound}`}
            label={DAY_LABELS[bound]}
            type="date"
            max={10}
          />
        ))}
      {written.type === 'calculated' && <FormulaOf key={written.holder} form={form} />}
      {isChoice(written) && (
        <TextField form={form} name="choices" id="field-choices" label="Choices, one a line" rows={4} max={20_000} />
      )}
    </>
  );
}

function FormulaOf({ form }: { form: UseFormReturn<FieldForm> }) {
  const { field, fieldState } = useController({ control: form.control, name: 'formula' });
  return (
    <FormulaBox
      holder={form.getValues('holder')}
      begin={null}
      problem={fieldState.error?.message}
      onChange={field.onChange}
    />
  );
}
