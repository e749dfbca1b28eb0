import type { FactValue, Field } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { problemAt, problemOf } from '../../client/api.ts';
import { FieldInput } from '../fields/FieldInput.tsx';
import { useChangePartyMutation } from '../fields/partiesApi.ts';
import { type DealDetail, useEditDealMutation } from './dealsApi.ts';

interface DealFieldProps {
  readonly id: string;
  readonly field: Field;
  readonly deal: DealDetail;
  readonly label: 'shown' | 'hidden';
}

/** One field of a deal, or of its customer or contact, saved by itself where it is kept. */
export function DealField(props: DealFieldProps) {
  return props.field.holder === 'deal' ? <OwnField {...props} /> : <PartyField {...props} />;
}

/** Saved with the value that was seen, so that two who write the same field are told. */
function OwnField(props: DealFieldProps) {
  const { field, deal } = props;
  const [editDeal, { error }] = useEditDealMutation();
  const value = deal.values[field.id] ?? null;
  const problem = problemOf(error);
  const detail = problem ? (problemAt(problem, '/changes/0/value') ?? problem.detail) : undefined;
  const save = (next: FactValue) =>
    editDeal({ deal: deal.id, body: { changes: [{ field: field.id, saw: value, value: next }] } });
  return <LabelledField {...props} value={value} problem={detail} onSave={save} />;
}

/** Kept with the customer or contact: all its deals read it, and are judged again when it changes. */
function PartyField(props: DealFieldProps) {
  const { field, deal } = props;
  const [changeParty, { error }] = useChangePartyMutation();
  const isCustomer = field.holder === 'customer';
  const party = isCustomer ? deal.customer : deal.contact;
  if (!party) {
    const chooser = deal.fields.find(({ id }) => id === field.holder);
    return (
      <>
        <span className="small muted">
          {field.name} is kept with the {field.holder}; choose the {field.holder} first
        </span>
        {chooser && <OwnField {...props} id={`${props.id}-${field.holder}`} field={chooser} label="hidden" />}
      </>
    );
  }
  const problem = problemOf(error);
  const detail = problem ? (problemAt(problem, `/values/${field.id}`) ?? problem.detail) : undefined;
  const save = (value: FactValue) =>
    changeParty({ kind: isCustomer ? 'customers' : 'contacts', id: party.id, values: { [field.id]: value } });
  return (
    <LabelledField
      {...props}
      field={{ ...field, name: `${field.name} of ${party.name}` }}
      value={deal.partyValues[field.id] ?? null}
      problem={detail}
      onSave={save}
    />
  );
}

interface LabelledFieldProps extends DealFieldProps {
  readonly value: FactValue;
  readonly problem: string | undefined;
  readonly onSave: (value: FactValue) => void;
}

function LabelledField({ id, field, deal, label, value, problem, onSave }: LabelledFieldProps) {
  const disabled = !deal.may.change || deal.status.state !== 'open';
  return (
    <div className="deal-field">
      <Form.Label htmlFor={id} className={label === 'hidden' ? 'sr' : ''} title={field.help}>
        {field.name}
      </Form.Label>
      <FieldInput
        id={id}
        field={field}
        value={value}
        currency={deal.currency}
        names={deal.names}
        problem={problem}
        disabled={disabled}
        onSave={onSave}
      />
    </div>
  );
}
