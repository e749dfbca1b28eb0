import {
  amountToMinor,
  BUILT_IN_FIELDS,
  type FactValue,
  type Field,
  isCurrency,
  isMoney,
  minorToAmount,
  type ProcessId,
  type Stage,
  type StageId,
} from '@ladder/core';
import { useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { type UseFormReturn, useController } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { useSession } from '../../client/session.ts';
import { boxProblem } from '../../parts/form/boxProblem.ts';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { FormSelect } from '../../parts/form/FormSelect.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { Options } from '../../parts/Options.tsx';
import { FieldInput } from '../fields/FieldInput.tsx';
import { type ProcessDetail, useGetProcessQuery } from '../processes/processesApi.ts';
import { type ChangedDeal, useAddDealMutation } from './dealsApi.ts';

const ASKED = ['customer', 'value', 'close_date', 'source'] as const;

interface NewDeal {
  readonly name: string;
  readonly stage: StageId | '';
  readonly values: Readonly<Record<string, FactValue>>;
  /** The process's own unless another is chosen. */
  readonly currency: string;
  /** Of a process that hands new deals out in turn: by that, or whose it is that begins it. */
  readonly goes: 'in_turn' | 'mine';
}

/** Begins a deal with little: a name is enough, the gates ask for the rest in time. */
export function NewDealDialog({ process, onClose }: { process: ProcessId; onClose: () => void }) {
  const { data: detail } = useGetProcessQuery(process);
  // An amount cannot be read before its currency is known.
  return detail ? <NewDealForm process={detail} onClose={onClose} /> : null;
}

function NewDealForm({ process, onClose }: { process: ProcessDetail; onClose: () => void }) {
  const [addDeal] = useAddDealMutation();
  const navigate = useNavigate();
  const { person } = useSession();
  const [gone, setGone] = useState<ChangedDeal | null>(null);
  const isHandedOut = process.assignment.by === 'turn';
  const { currency: usual = '', stages = [] } = process.live?.document ?? {};
  const deal = useBodyForm({
    begin: { name: '', stage: stages[0]?.id ?? '', values: {}, currency: usual, goes: 'in_turn' } as NewDeal,
    schema: (contract) => contract.deal.newDeal,
    toBody: ({ name, stage, values, currency, goes }) => ({
      process: process.id,
      name: name.trim(),
      values: isHandedOut && goes === 'mine' ? { ...values, owner: person.id } : values,
      ...(stage ? { stage } : {}),
      ...(currency === usual ? {} : { currency }),
    }),
    send: addDeal,
    onDone: (begun) => (maySee(person, begun) ? navigate(`/deals/${begun.id}`) : setGone(begun)),
  });
  const { form } = deal;
  if (gone) return <HandedOut deal={gone} onClose={onClose} />;
  return (
    <FormDialog title={`New deal in ${process.name}`} confirm="Begin the deal" of={deal} onClose={onClose}>
      <TextField form={form} name="name" id="new-deal-name" label="Name of the deal" autoFocus max={200} />
      {BUILT_IN_FIELDS.filter(({ id }) => (ASKED as readonly string[]).includes(id)).map((field) => (
        <ValueBox key={field.id} field={field} form={form} />
      ))}
      <CurrencyBox form={form} />
      <StageChoice form={form} stages={stages} />
      {isHandedOut && person.role !== 'administrator' && (
        <FormSelect form={form} name="goes" id="new-deal-goes" label="Its owner" names={GOES} />
      )}
    </FormDialog>
  );
}

const GOES = { in_turn: 'whose turn it is', mine: 'myself' } as const;

/** Sellers and managers see what their teams or they themselves have. */
function maySee(person: ReturnType<typeof useSession>['person'], { values: { owner, team } }: ChangedDeal): boolean {
  const seesAll = person.role === 'administrator' || person.role === 'viewer';
  return seesAll || owner === person.id || (typeof team === 'string' && person.teams.includes(team));
}

/** Tells to whom a deal went that whoever began it does not see. */
function HandedOut({ deal, onClose }: { deal: ChangedDeal; onClose: () => void }) {
  const { owner } = deal.values;
  const name = typeof owner === 'string' ? deal.names[owner] : undefined;
  return (
    <Modal show onHide={onClose} centered aria-labelledby="handed-out">
      <Modal.Header closeButton>
        <h2 id="handed-out">{deal.name} is begun</h2>
      </Modal.Header>
      <Modal.Body>
        {name
          ? `It went to ${name}, whose turn it was.`
          : 'Nobody of the team is here today, so it waits for its team.'}{' '}
        It belongs to another team, so you do not see it any more.
      </Modal.Body>
      <Modal.Footer>
        <Button onClick={onClose}>Close</Button>
      </Modal.Footer>
    </Modal>
  );
}

interface PartProps {
  readonly form: UseFormReturn<NewDeal>;
}

function ValueBox({ form, field }: PartProps & { readonly field: Field }) {
  const { values, currency } = form.watch();
  return (
    <Form.Group className="mb-2">
      <Form.Label htmlFor={`new-${field.id}`}>{field.name}</Form.Label>
      <FieldInput
        id={`new-${field.id}`}
        field={field}
        value={values[field.id] ?? null}
        currency={currency}
        names={{}}
        problem={boxProblem(form, `values.${field.id}`)}
        onSave={(value) => form.setValue('values', { ...form.getValues('values'), [field.id]: value })}
      />
    </Form.Group>
  );
}

/** The currency is written in capitals, and the amount stands in it as soon as there is one. */
function CurrencyBox({ form }: PartProps) {
  const { field, fieldState } = useController({ control: form.control, name: 'currency' });
  const choose = (text: string) => {
    const next = text.toUpperCase();
    field.onChange(next);
    const values = form.getValues('values');
    if (isCurrency(next)) form.setValue('values', { ...values, value: inCurrency(values.value ?? null, next) });
  };
  return (
    <Form.Group controlId="new-deal-currency" className="mb-2">
      <Form.Label>Currency</Form.Label>
      <Form.Control
        maxLength={3}
        value={field.value}
        isInvalid={Boolean(fieldState.error)}
        onChange={(event) => choose(event.target.value)}
      />
      <Form.Control.Feedback type="invalid">{fieldState.error?.message}</Form.Control.Feedback>
    </Form.Group>
  );
}

function StageChoice({ form, stages }: PartProps & { readonly stages: readonly Stage[] }) {
  return (
    <Form.Group controlId="new-deal-stage">
      <Form.Label>Stage</Form.Label>
      <Form.Select {...form.register('stage')}>
        <Options of={stages} />
      </Form.Select>
    </Form.Group>
  );
}

/** The same written amount in another currency; none where that has fewer decimal places. */
function inCurrency(value: FactValue, currency: string): FactValue {
  if (!isMoney(value)) return value;
  const minor = amountToMinor(minorToAmount(value.minor, value.currency), currency);
  return minor.ok ? { minor: minor.value, currency } : null;
}
