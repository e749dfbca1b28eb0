import type { DealId } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { type UseFormReturn, useController } from 'react-hook-form';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { DealPicker } from './DealPicker.tsx';
import { type DealDetail, useVoidDealMutation } from './dealsApi.ts';

interface Voiding {
  readonly kind: 'test' | 'duplicate';
  readonly duplicateOf: DealId | '';
  readonly text: string;
}

/** Takes a deal out of every measure: one that was a test, or one that repeats another and is merged into it. */
export function VoidDialog({ deal, onClose }: { deal: DealDetail; onClose: () => void }) {
  const [voidDeal] = useVoidDealMutation();
  const voiding = useBodyForm({
    begin: { kind: 'test', duplicateOf: '', text: '' } as Voiding,
    schema: (contract) => contract.deal.voiding,
    toBody: ({ kind, duplicateOf, text }) => ({
      text: text.trim(),
      ...(kind === 'duplicate' ? { duplicateOf: duplicateOf as DealId } : {}),
    }),
    send: (body) => voidDeal({ deal: deal.id, body }),
    onDone: onClose,
    words: { text: 'Say why.' },
  });
  const { form } = voiding;
  return (
    <FormDialog title="Void this deal" confirm="Void the deal" variant="danger" of={voiding} onClose={onClose}>
      <p className="muted small">It leaves every measure; its journal stays.</p>
      <WhatItWas form={form} />
      {form.watch('kind') === 'duplicate' && <DealThatStays form={form} deal={deal} />}
      <TextField form={form} name="text" id="void-text" label="Why?" rows={2} max={2000} />
    </FormDialog>
  );
}

const KINDS = { test: 'It was a test, or a mistake', duplicate: 'It repeats another deal, which stays' } as const;

function WhatItWas({ form }: { form: UseFormReturn<Voiding> }) {
  return (
    <div className="mb-2">
      {(['test', 'duplicate'] as const).map((kind) => (
        <Form.Check
          key={kind}
          type="radio"
          id={`void-${kind}`}
          label={KINDS[kind]}
          value={kind}
          {...form.register('kind')}
        />
      ))}
    </div>
  );
}

function DealThatStays({ form, deal }: { form: UseFormReturn<Voiding>; deal: DealDetail }) {
  const { field, fieldState } = useController({ control: form.control, name: 'duplicateOf' });
  const isMissing = fieldState.error && field.value === '';
  return (
    <DealPicker
      label="The deal that stays"
      without={deal.id}
      process={deal.process.id}
      value={field.value}
      problem={isMissing ? 'Choose the deal that stays.' : fieldState.error?.message}
      onChange={field.onChange}
    />
  );
}
