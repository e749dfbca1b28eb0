import type { FactValue, Field } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { problemAt, problemOf } from '../../app/api.ts';
import { FieldInput } from '../../parts/FieldInput.tsx';
import { type DealDetail, useEditDealMutation } from './dealsApi.ts';

interface DealFieldProps {
  readonly id: string;
  readonly field: Field;
  readonly deal: DealDetail;
  readonly label: 'shown' | 'hidden';
}

/** One field of a deal, saved by itself with the value that was seen. */
export function DealField({ id, field, deal, label }: DealFieldProps) {
  const [editDeal, { error }] = useEditDealMutation();
  const value = deal.values[field.id] ?? null;
  const problem = problemOf(error);
  const detail = problem ? (problemAt(problem, '/changes/0/value') ?? problem.detail) : undefined;
  const save = (next: FactValue) =>
    editDeal({ deal: deal.id, body: { changes: [{ field: field.id, saw: value, value: next }] } });
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
        problem={detail}
        disabled={disabled}
        onSave={save}
      />
    </div>
  );
}
