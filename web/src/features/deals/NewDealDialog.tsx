import { amountToMinor, BUILT_IN_FIELDS, type FactValue, isCurrency, isMoney, minorToAmount } from '@ladder/core';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import { problemAt, problemOf } from '../../client/api.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';
import { TextField } from '../../parts/TextField.tsx';
import { FieldInput } from '../fields/FieldInput.tsx';
import { useGetProcessQuery } from '../processes/processesApi.ts';
import { useAddDealMutation } from './dealsApi.ts';

const ASKED = ['customer', 'value', 'close_date', 'source'] as const;

/** Begins a deal with little: a name is enough, the gates ask for the rest in time. */
export function NewDealDialog({ process, onClose }: { process: string; onClose: () => void }) {
  const { data: detail } = useGetProcessQuery(process);
  const [addDeal, { error, isLoading }] = useAddDealMutation();
  const [name, setName] = useState('');
  const [stage, setStage] = useState('');
  const [values, setValues] = useState<Record<string, FactValue>>({});
  const [chosen, setChosen] = useState<string | null>(null);
  const currency = chosen ?? detail?.live?.document.currency ?? '';
  const navigate = useNavigate();
  const problem = problemOf(error);
  const submit = async () => {
    const extra = { ...(stage ? { stage } : {}), ...(chosen ? { currency: chosen } : {}) };
    const answer = await addDeal({ process, name: name.trim(), values, ...extra });
    if (answer.data) await navigate(`/deals/${answer.data.id}`);
  };
  const chooseCurrency = (text: string) => {
    const next = text.toUpperCase();
    setChosen(next);
    if (isCurrency(next)) setValues((old) => ({ ...old, value: inCurrency(old.value ?? null, next) }));
  };
  // An amount cannot be read before its currency is known.
  if (!detail) return null;
  return (
    <FormDialog
      title={`New deal in ${detail.name}`}
      confirm="Begin the deal"
      isBusy={isLoading}
      error={error}
      onSubmit={submit}
      onClose={onClose}
    >
      <TextField
        id="new-deal-name"
        label="Name of the deal"
        autoFocus
        max={200}
        value={name}
        problem={problemAt(problem, '/name')}
        onChange={setName}
      />
      {BUILT_IN_FIELDS.filter(({ id }) => (ASKED as readonly string[]).includes(id)).map((field) => (
        <Form.Group key={field.id} className="mb-2">
          <Form.Label htmlFor={`new-${field.id}`}>{field.name}</Form.Label>
          <FieldInput
            id={`new-${field.id}`}
            field={field}
            value={values[field.id] ?? null}
            currency={currency}
            names={{}}
            problem={problemAt(problem, `/values/${field.id}`)}
            onSave={(value) => setValues((old) => ({ ...old, [field.id]: value }))}
          />
        </Form.Group>
      ))}
      <TextField
        id="new-deal-currency"
        label="Currency"
        max={3}
        value={currency}
        problem={problemAt(problem, '/currency')}
        onChange={chooseCurrency}
      />
      <Form.Group controlId="new-deal-stage">
        <Form.Label>Stage</Form.Label>
        <Form.Select value={stage} onChange={(event) => setStage(event.target.value)}>
          {detail.live?.document.stages.map(({ id, name: stageName }) => (
            <option key={id} value={id}>
              {stageName}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
    </FormDialog>
  );
}

/** The same written amount in another currency; none where that has fewer decimal places. */
function inCurrency(value: FactValue, currency: string): FactValue {
  if (!isMoney(value)) return value;
  const minor = amountToMinor(minorToAmount(value.minor, value.currency), currency);
  return minor.ok ? { minor: minor.value, currency } : null;
}
