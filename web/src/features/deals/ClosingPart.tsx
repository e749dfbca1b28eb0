import { BUILT_IN_FIELDS, type FactValue, type Field, isMoney, isWon, type MoveTarget, valueText } from '@ladder/core';
import { Form } from 'react-bootstrap';
import type { UseFormReturn } from 'react-hook-form';
import { useSession } from '../../client/session.ts';
import { boxProblem } from '../../parts/form/boxProblem.ts';
import { TextField } from '../../parts/form/TextField.tsx';
import { shortDay } from '../../parts/format.ts';
import { Options } from '../../parts/Options.tsx';
import { FieldInput } from '../fields/FieldInput.tsx';
import { type ClosingAnswers, fieldsAsked } from './closing.ts';
import type { DealDetail, Verdict } from './dealsApi.ts';
import { MoveQuestionsPart } from './MoveQuestionsPart.tsx';
import { moveQuestions } from './moveQuestions.ts';

interface ClosingPartProps {
  readonly form: UseFormReturn<ClosingAnswers>;
  readonly deal: DealDetail;
  readonly target: MoveTarget & { readonly to: 'outcome' };
  /** What its gate says, once that is known. */
  readonly verdict: Verdict | undefined;
}

/** In a dialog about a closing: how it was won, the reason, what the outcome requires, and what becomes of what is open. */
export function ClosingPart({ form, deal, target, verdict }: ClosingPartProps) {
  const { organisation } = useSession();
  const reasons = deal.reasons.filter(({ outcome }) => outcome === target.outcome);
  const chosen = reasons.find(({ id }) => id === form.watch('reason'));
  return (
    <>
      {isWon(deal, target) && <FinalFacts form={form} deal={deal} />}
      {reasons.length > 0 && <ReasonChoice form={form} reasons={reasons} />}
      {chosen?.followUp === 'asked' && (
        <TextField form={form} name="followUp" id="close-follow-up" label="Come back to it on" type="date" max={10} />
      )}
      {fieldsAsked(deal, target, verdict).map((field) => (
        <FactBox key={field.id} form={form} deal={deal} field={field} />
      ))}
      <MoveQuestionsPart form={form} questions={moveQuestions(deal, target, organisation.today)} />
      <StepsLeft deal={deal} />
      <TextField form={form} name="text" id="close-text" label="In your own words, if you like" rows={2} max={2000} />
    </>
  );
}

type PartProps = Pick<ClosingPartProps, 'form' | 'deal'>;

const [VALUE] = BUILT_IN_FIELDS.filter(({ id }) => id === 'value').map((field) => ({ ...field, name: 'Final value' }));

/** What it came to and when it was agreed, each beside what had been expected. */
function FinalFacts({ form, deal }: PartProps) {
  const { organisation } = useSession();
  const { value, close_date: expected } = deal.values;
  return (
    <div className="final-facts">
      <div>
        <Form.Label htmlFor="close-value">Final value</Form.Label>
        {VALUE && (
          <FieldInput
            id="close-value"
            field={VALUE}
            value={form.watch('final.value') as FactValue}
            currency={isMoney(value) ? value.currency : deal.currency}
            names={deal.names}
            problem={boxProblem(form, 'final.value')}
            saves="as_written"
            onSave={(written) => form.setValue('final.value', written as never)}
          />
        )}
        {isMoney(value) && <small className="muted">estimated {valueText(value, VALUE, () => undefined)}</small>}
      </div>
      <div>
        <TextField form={form} name="final.day" id="close-day" label="Agreed on" type="date" max={10} />
        {typeof expected === 'string' && expected !== form.watch('final.day') && (
          <small className="muted">estimated {shortDay(expected, organisation.today)}</small>
        )}
      </div>
    </div>
  );
}

function ReasonChoice({ form, reasons }: Pick<PartProps, 'form'> & Pick<DealDetail, 'reasons'>) {
  const wrong = boxProblem(form, 'reason');
  return (
    <Form.Group controlId="close-reason" className="mb-2">
      <Form.Label>Reason</Form.Label>
      <Form.Select isInvalid={wrong !== undefined} {...form.register('reason')}>
        <option value="">Choose…</option>
        <Options of={reasons} />
      </Form.Select>
      <Form.Control.Feedback type="invalid">{wrong}</Form.Control.Feedback>
    </Form.Group>
  );
}

/** One of the fields that the outcome requires: filled with the closing, and kept where that is held. */
function FactBox({ form, deal, field }: PartProps & { readonly field: Field }) {
  const facts = form.watch('facts');
  return (
    <Form.Group className="mb-2">
      <Form.Label htmlFor={`close-${field.id}`}>{field.name}</Form.Label>
      <FieldInput
        id={`close-${field.id}`}
        field={field}
        value={facts[field.id] ?? deal.values[field.id] ?? null}
        currency={deal.currency}
        names={deal.names}
        saves="as_written"
        onSave={(value) => form.setValue('facts', { ...form.getValues('facts'), [field.id]: value } as never)}
      />
    </Form.Group>
  );
}

/** A step cannot be kept: what a closed deal owes is over. */
function StepsLeft({ deal }: Pick<PartProps, 'deal'>) {
  const names = deal.stepsAtHand.map(({ name }) => name);
  if (names.length === 0) return null;
  return <p className="small muted mb-2">The step at hand ends with it: {names.join(', ')}.</p>;
}
