import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { problemAt, problemOf } from '../../client/api.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';
import { DealPicker } from './DealPicker.tsx';
import { type DealDetail, useVoidDealMutation } from './dealsApi.ts';

/** Takes a deal out of every measure: one that was a test, or one that repeats another and is merged into it. */
export function VoidDialog({ deal, onClose }: { deal: DealDetail; onClose: () => void }) {
  const [voidDeal, { error, isLoading }] = useVoidDealMutation();
  const [kind, setKind] = useState<'test' | 'duplicate'>('test');
  const [duplicateOf, setDuplicateOf] = useState<string | null>(null);
  const [text, setText] = useState('');
  const [isAsked, setAsked] = useState(false);
  const problem = problemOf(error);
  const lacksDeal = kind === 'duplicate' && duplicateOf === null;
  const submit = async () => {
    setAsked(true);
    if (lacksDeal || text.trim() === '') return;
    const body = { text: text.trim(), ...(kind === 'duplicate' && duplicateOf ? { duplicateOf } : {}) };
    const answer = await voidDeal({ deal: deal.id, body });
    if (answer.data) onClose();
  };
  return (
    <FormDialog
      title="Void this deal"
      confirm="Void the deal"
      variant="danger"
      isBusy={isLoading}
      error={error}
      onSubmit={submit}
      onClose={onClose}
    >
      <p className="muted small">It leaves every measure; its journal stays.</p>
      <Form.Check
        type="radio"
        name="void-kind"
        id="void-test"
        label="It was a test, or a mistake"
        checked={kind === 'test'}
        onChange={() => setKind('test')}
      />
      <Form.Check
        type="radio"
        name="void-kind"
        id="void-duplicate"
        className="mb-2"
        label="It repeats another deal, which stays"
        checked={kind === 'duplicate'}
        onChange={() => setKind('duplicate')}
      />
      {kind === 'duplicate' && (
        <DealPicker
          label="The deal that stays"
          without={deal.id}
          process={deal.process.id}
          value={duplicateOf}
          problem={
            problemAt(problem, '/duplicateOf') ?? (isAsked && lacksDeal ? 'Choose the deal that stays.' : undefined)
          }
          onChange={setDuplicateOf}
        />
      )}
      <Form.Group controlId="void-text">
        <Form.Label>Why?</Form.Label>
        <Form.Control
          as="textarea"
          rows={2}
          maxLength={2000}
          value={text}
          isInvalid={isAsked && text.trim() === ''}
          onChange={(event) => setText(event.target.value)}
        />
        <Form.Control.Feedback type="invalid">Say why.</Form.Control.Feedback>
      </Form.Group>
    </FormDialog>
  );
}
