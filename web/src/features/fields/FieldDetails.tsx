import type { Field, OWN_FIELD_TYPES } from '@ladder/core';
import { useEffect, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useUnsaved } from '../../parts/AsksBeforeLeaving.tsx';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { FormSelect } from '../../parts/form/FormSelect.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { type FieldChange, useChangeFieldMutation } from './fieldsApi.ts';
import { OWN_TYPE_NAMES, TYPE_NAMES } from './fieldWords.ts';

interface Written {
  readonly name: string;
  readonly help: string;
  readonly type: (typeof OWN_FIELD_TYPES)[number];
  readonly unit: string;
  readonly min: string;
  readonly max: string;
  readonly firstDay: string;
  readonly lastDay: string;
}

const written = (field: Field): Written => ({
  name: field.name,
  help: field.help ?? '',
  type: field.type as Written['type'],
  unit: field.unit ?? '',
  min: field.min === undefined ? '' : String(field.min),
  max: field.max === undefined ? '' : String(field.max),
  firstDay: field.firstDay ?? '',
  lastDay: field.lastDay ?? '',
});

/** Name, help, unit and bounds of a field; its type while it is not used. */
export function FieldDetails({ field, isUsed }: { field: Field; isUsed: boolean }) {
  const [change, { isLoading }] = useChangeFieldMutation();
  // What is changed is changed from what was seen: what somebody else writes meanwhile is not written over.
  const [seen, setSeen] = useState(field);
  const begin = written(seen);
  const { form, error, submit } = useBodyForm({
    begin,
    schema: ({ facts }) => facts.fieldChange,
    toBody: (values) => toChange(seen, begin, values),
    send: (body) => change({ id: field.id, body }),
    onDone: setSeen,
    words: { min: 'A number, or nothing.', max: 'A number, or nothing.' },
  });
  useEffect(() => form.reset(written(seen)), [seen, form]);
  const { isDirty } = form.formState;
  useUnsaved(isDirty);
  const { type } = form.watch();
  const hasNumbers = type === 'number' || type === 'money';
  return (
    <Form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      <TextField form={form} name="name" id="field-name" label="Name" max={200} />
      <TextField form={form} name="help" id="field-help" label="Help, shown where it is filled" max={2000} rows={2} />
      {isUsed ? (
        <p className="small">
          <b>{TYPE_NAMES[field.type]}</b>
          {field.unit ? ` in ${field.unit}` : ''}.{' '}
          <span className="muted">It is used, so its type and unit stay. For another one make a new field.</span>
        </p>
      ) : (
        <div className="panel-duo">
          <FormSelect form={form} name="type" id="field-type" label="Type" names={typesFor(field)} />
          {(hasNumbers || type === 'calculated') && type !== 'money' && (
            <TextField form={form} name="unit" id="field-unit" label="Unit, if any" max={20} />
          )}
        </div>
      )}
      {hasNumbers && (
        <div className="panel-duo">
          <TextField form={form} name="min" id="field-min" label="At least" max={20} />
          <TextField form={form} name="max" id="field-max" label="At most" max={20} />
        </div>
      )}
      {type === 'date' && (
        <div className="panel-duo">
          <TextField form={form} name="firstDay" id="field-firstDay" label="Not before" type="date" max={10} />
          <TextField form={form} name="lastDay" id="field-lastDay" label="Not after" type="date" max={10} />
        </div>
      )}
      <ErrorNotice error={error} />
      {isDirty && (
        <div className="panel-foot">
          <Button type="submit" size="sm" disabled={isLoading}>
            Save
          </Button>
          <Button
            size="sm"
            variant="outline-secondary"
            onClick={() => (seen === field ? form.reset(begin) : setSeen(field))}
          >
            Discard
          </Button>
          {field.holder === 'deal' && (
            <span className="small muted">Processes have it so from their next publish.</span>
          )}
        </div>
      )}
    </Form>
  );
}

/** What has a formula or choices is made so; any other may become each other. */
function typesFor({ type }: Field): Readonly<Partial<typeof OWN_TYPE_NAMES>> & Record<string, string> {
  const apart: readonly string[] = ['calculated', 'choice', 'choices'];
  const kin = (one: string): boolean =>
    type === 'choice' || type === 'choices'
      ? one === 'choice' || one === 'choices'
      : type === one || !apart.includes(one);
  return Object.fromEntries(
    Object.entries(OWN_TYPE_NAMES).filter(([one]) => (type === 'calculated' ? one === type : kin(one))),
  );
}

/** What was changed, each part with what was seen of it. */
function toChange(field: Field, begin: Written, values: Written): FieldChange {
  const changed = (Object.keys(begin) as (keyof Written)[]).filter((part) => begin[part] !== values[part]);
  const after = changed.map((part) => [part, bodyOf(part, values[part])]);
  const before = changed.flatMap((part) => (field[part] === undefined ? [] : [[part, field[part]]]));
  return { ...Object.fromEntries(after), saw: Object.fromEntries(before) };
}

function bodyOf(part: keyof Written, text: string): string | number | null {
  const trimmed = text.trim();
  if (part === 'name' || part === 'type' || part === 'help') return trimmed;
  if (trimmed === '') return null;
  return part === 'min' || part === 'max' ? Number(trimmed) : trimmed;
}
