import { type GuidedStep, leadWords, type Stage, type StepResult } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { boxProblem } from '../../parts/form/boxProblem.ts';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { Options } from '../../parts/Options.tsx';
import type { DealDetail } from './dealsApi.ts';
import { MoveQuestionsPart } from './MoveQuestionsPart.tsx';
import { moveAsks } from './moveAsks.ts';
import { answersToSend, type MoveAnswers, moveQuestions, NO_ANSWERS, NOTHING_ASKED } from './moveQuestions.ts';
import type { MoveWords } from './useResult.ts';

interface ResultDialogProps {
  readonly deal: DealDetail;
  readonly stage: Stage;
  readonly step: GuidedStep;
  readonly result: StepResult;
  readonly send: (result: StepResult, words: MoveWords) => Promise<{ readonly error?: unknown }>;
  readonly onClose: () => void;
}

interface Written extends MoveAnswers {
  readonly text: string;
  readonly reason: string;
  readonly followUp: string;
}

/** What the move that a result makes asks for: why the deal goes back, or the reason for which it closes. */
export function ResultDialog({ deal, stage, step, result, send, onClose }: ResultDialogProps) {
  const { organisation } = useSession();
  const asked = moveAsks(deal, { owed: false }, stage, step, result, organisation.today);
  const questions = asked ? moveQuestions(deal, asked.target, organisation.today) : NOTHING_ASKED;
  const isClosing = asked?.asks === 'reason';
  const form = useBodyForm({
    begin: { ...NO_ANSWERS, text: '', reason: isClosing ? asked.named : '', followUp: '' } as Written,
    schema: (contract) => contract.deal.result,
    toBody: ({ text, reason, followUp, ...answers }) => {
      const { changes = [], ...kept } = answersToSend(deal, answers);
      return {
        result: result.id,
        version: deal.version.id,
        captures: changes,
        ...kept,
        ...(text.trim() ? { text: text.trim() } : {}),
        ...(reason ? { reason } : {}),
        ...(followUp ? { followUp } : {}),
      };
    },
    send: ({ result: _result, version: _version, captures, ...words }) => send(result, { ...words, changes: captures }),
    onDone: onClose,
    words: { text: 'Say why.', tasks: 'Choose what becomes of them.' },
  });
  const chosen = isClosing ? asked.reasons.find(({ id }) => id === form.form.watch('reason')) : undefined;
  const wrong = boxProblem(form.form, 'reason');
  return (
    <FormDialog title={`${step.name}: ${result.name}`} confirm={result.name} of={form} onClose={onClose}>
      <p>This {leadWords(deal.document, stage, step.id, result)}.</p>
      {isClosing && (
        <Form.Group controlId="result-reason" className="mb-2">
          <Form.Label>Reason</Form.Label>
          <Form.Select isInvalid={wrong !== undefined} {...form.form.register('reason')}>
            <option value="">Choose…</option>
            <Options of={asked.reasons} />
          </Form.Select>
          <Form.Control.Feedback type="invalid">{wrong}</Form.Control.Feedback>
        </Form.Group>
      )}
      {chosen?.followUp === 'asked' && (
        <TextField
          form={form.form}
          name="followUp"
          id="result-follow-up"
          label="Come back to it on"
          type="date"
          max={10}
        />
      )}
      <MoveQuestionsPart form={form.form} questions={questions} />
      {asked?.asks !== 'questions' && (
        <TextField
          form={form.form}
          name="text"
          id="result-text"
          label={isClosing ? 'In your own words, if you like' : 'Why does it go back?'}
          rows={2}
          max={2000}
        />
      )}
    </FormDialog>
  );
}
