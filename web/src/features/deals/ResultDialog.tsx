import { type GuidedStep, leadWords, type Stage, type StepResult } from '@ladder/core';
import { skipToken } from '@reduxjs/toolkit/query';
import { useSession } from '../../client/session.ts';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { ClosingPart } from './ClosingPart.tsx';
import { beginClosing, type ClosingAnswers, closingToSend } from './closing.ts';
import { type DealDetail, usePreviewMoveQuery } from './dealsApi.ts';
import { MoveQuestionsPart } from './MoveQuestionsPart.tsx';
import { moveAsks } from './moveAsks.ts';
import { answersToSend, moveQuestions } from './moveQuestions.ts';
import type { MoveWords } from './useResult.ts';

interface ResultDialogProps {
  readonly deal: DealDetail;
  readonly stage: Stage;
  readonly step: GuidedStep;
  readonly result: StepResult;
  readonly send: (result: StepResult, words: MoveWords) => Promise<{ readonly error?: unknown }>;
  readonly onClose: () => void;
}

/** What the move that a result makes asks for: why the deal goes back, or how it closes. */
export function ResultDialog({ deal, stage, step, result, send, onClose }: ResultDialogProps) {
  const { organisation } = useSession();
  const asked = moveAsks(deal, { owed: false }, stage, step, result, organisation.today);
  const closing = asked?.asks === 'closing' ? asked : null;
  const { data: verdict } = usePreviewMoveQuery(closing ? { deal: deal.id, target: closing.target } : skipToken, {
    refetchOnMountOrArgChange: true,
  });
  const form = useBodyForm({
    begin: { ...beginClosing(deal, organisation.today), reason: closing?.named ?? '' },
    schema: (contract) => contract.deal.result,
    toBody: (answers: ClosingAnswers) => {
      const { changes = [], ...words } = closing
        ? closingToSend(deal, closing.target, answers)
        : { ...answersToSend(deal, answers), ...(answers.text.trim() ? { text: answers.text.trim() } : {}) };
      return { result: result.id, version: deal.version.id, captures: changes, ...words };
    },
    send: ({ result: _result, version: _version, captures, ...words }) => send(result, { ...words, changes: captures }),
    onDone: onClose,
    words: { text: 'Say why.', tasks: 'Choose what becomes of them.' },
  });
  return (
    <FormDialog title={`${step.name}: ${result.name}`} confirm={result.name} of={form} onClose={onClose}>
      <p>This {leadWords(deal.document, stage, step.id, result)}.</p>
      {closing ? (
        <ClosingPart form={form.form} deal={deal} target={closing.target} verdict={verdict} />
      ) : (
        asked && (
          <MoveQuestionsPart form={form.form} questions={moveQuestions(deal, asked.target, organisation.today)} />
        )
      )}
      {asked?.asks === 'why' && (
        <TextField form={form.form} name="text" id="result-text" label="Why does it go back?" rows={2} max={2000} />
      )}
    </FormDialog>
  );
}
