import type { FactValue, Field, ProcessId } from '@ladder/core';
import { isMoney, valueText } from '@ladder/core';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { Options } from '../../parts/Options.tsx';
import { type ProcessDetail, useGetProcessQuery, useListProcessesQuery } from '../processes/processesApi.ts';
import { type DealDetail, useAddDealMutation } from './dealsApi.ts';

interface GoOnDialogProps {
  readonly deal: DealDetail;
  readonly onClose: () => void;
}

/** Begins a new deal from one that closed: in which process, called what, and with which of its facts. */
export function GoOnDialog({ deal, onClose }: GoOnDialogProps) {
  const [process, setProcess] = useState<ProcessId>(deal.process.id);
  const { data: detail } = useGetProcessQuery(process);
  if (detail?.id !== process) return null;
  return <GoOnForm key={process} deal={deal} process={detail} onProcess={setProcess} onClose={onClose} />;
}

interface GoOnFormProps extends GoOnDialogProps {
  readonly process: ProcessDetail;
  readonly onProcess: (process: ProcessId) => void;
}

function GoOnForm({ deal, process, onProcess, onClose }: GoOnFormProps) {
  const [addDeal] = useAddDealMutation();
  const navigate = useNavigate();
  const facts = factsToCarry(deal, process);
  const begin = useBodyForm({
    begin: { name: deal.name, carried: facts.filter((field) => isUsuallyCarried(deal, field)).map(({ id }) => id) },
    schema: (contract) => contract.deal.newDeal,
    toBody: ({ name, carried }) => {
      const values = Object.fromEntries(carried.map((id): [string, FactValue] => [id, deal.values[id] ?? null]));
      return {
        process: process.id,
        name: name.trim(),
        from: deal.id,
        values,
        ...(isMoney(values.value) ? { currency: values.value.currency } : {}),
      };
    },
    send: addDeal,
    onDone: ({ id }) => navigate(`/deals/${id}`),
  });
  const { carried } = begin.form.watch();
  const toggle = (id: string) =>
    begin.form.setValue('carried', carried.includes(id) ? carried.filter((one) => one !== id) : [...carried, id]);
  return (
    <FormDialog title="Begin a new deal from it" confirm="Begin the deal" of={begin} onClose={onClose}>
      <TextField form={begin.form} name="name" id="go-on-name" label="Name of the new deal" autoFocus max={200} />
      <ProcessChoice process={process.id} onProcess={onProcess} />
      {facts.length > 0 && (
        <fieldset className="facts-carried">
          <legend className="form-label">What it takes along</legend>
          {facts.map((field) => (
            <Form.Check
              key={field.id}
              id={`carry-${field.id}`}
              checked={carried.includes(field.id)}
              label={<FactWords field={field} deal={deal} />}
              onChange={() => toggle(field.id)}
            />
          ))}
        </fieldset>
      )}
    </FormDialog>
  );
}

function FactWords({ field, deal }: { field: Field; deal: DealDetail }) {
  return (
    <>
      {field.name}{' '}
      <span className="muted">{valueText(deal.values[field.id] ?? null, field, (id) => deal.names[id])}</span>
    </>
  );
}

interface ProcessChoiceProps {
  readonly process: ProcessId;
  readonly onProcess: (process: ProcessId) => void;
}

/** The processes that take new deals, and the deal's own. */
function ProcessChoice({ process, onProcess }: ProcessChoiceProps) {
  const { data } = useListProcessesQuery();
  const offered = data?.items.filter(({ live, closedToNew }) => live !== null && !closedToNew) ?? [];
  return (
    <Form.Group controlId="go-on-process" className="mb-2">
      <Form.Label>Process</Form.Label>
      <Form.Select value={process} onChange={({ target }) => onProcess(target.value as ProcessId)}>
        <Options of={offered} />
      </Form.Select>
    </Form.Group>
  );
}

/** What was filled in the old deal and is used by the new one's process. */
function factsToCarry(deal: DealDetail, { live }: ProcessDetail): readonly Field[] {
  const used = live?.document.sections.flatMap(({ fields }) => fields) ?? [];
  return used.flatMap((id) => {
    const field = deal.fields.find((candidate) => candidate.id === id);
    const isCarried = field?.holder === 'deal' && field.type !== 'calculated' && isFilled(deal.values[id]);
    return field && isCarried ? [field] : [];
  });
}

const isFilled = (value: FactValue | undefined): boolean =>
  value !== undefined && value !== null && value !== '' && !(Array.isArray(value) && value.length === 0);

/** What belonged to the end of the old deal is left there unless it is chosen. */
const LEFT_BEHIND = ['close_date', 'next_action', 'next_action_day', 'own_chance'];
function isUsuallyCarried({ document }: DealDetail, { id, type }: Field): boolean {
  const isOfTheEnd = document.outcomes.some(({ requirements }) =>
    requirements.some((asked) => asked.kind === 'field' && asked.field === id),
  );
  return !isOfTheEnd && !LEFT_BEHIND.includes(id) && type !== 'yes_no';
}
