import type { deal as contract, TypeOf } from '@ladder/contract';
import type { MoveTarget } from '@ladder/core';
import { useSession } from '../../client/session.ts';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import type { DealDetail } from './dealsApi.ts';
import { MoveQuestionsPart } from './MoveQuestionsPart.tsx';
import { answersToSend, type MoveAnswers, moveQuestions, NO_ANSWERS } from './moveQuestions.ts';

/** What goes with a move beside its target. */
export type MoveExtra = Omit<TypeOf<typeof contract.move>, 'target' | 'revision'>;

interface MoveDialogProps {
  readonly deal: DealDetail;
  readonly target: MoveTarget;
  readonly kind: 'forward' | 'return' | 'force';
  /** Where it leads. */
  readonly name: string;
  readonly onMove: (extra: MoveExtra) => Promise<{ readonly error?: unknown }>;
  readonly onClose: () => void;
}

const TITLES = { forward: 'Move on to', return: 'Move back to', force: 'Force to' } as const;
const CONFIRMS = { forward: 'Move on', return: 'Move back', force: 'Force the move' } as const;
const WHY = {
  return: 'Why does it go back?',
  force: 'The gate is passed whatever it says, and this is recorded. Why?',
} as const;

interface Written extends MoveAnswers {
  readonly text: string;
}

/** What a move asks of whoever makes it: why it goes back, what becomes of the open tasks, what comes next. */
export function MoveDialog({ deal, target, kind, name, onMove, onClose }: MoveDialogProps) {
  const { organisation } = useSession();
  const questions = moveQuestions(deal, target, organisation.today);
  const form = useBodyForm({
    begin: { ...NO_ANSWERS, text: '' } as Written,
    schema: (contract) => contract.deal.move,
    toBody: ({ text, ...answers }) => ({
      target,
      revision: deal.revision,
      ...(kind === 'force' ? { mode: 'force' as const } : {}),
      ...(text.trim() ? { text: text.trim() } : {}),
      ...answersToSend(deal, answers),
    }),
    send: ({ target: _target, revision: _revision, ...extra }) => onMove(extra),
    onDone: onClose,
    words: { text: 'Say why.', tasks: 'Choose what becomes of them.' },
  });
  return (
    <FormDialog
      title={`${TITLES[kind]} ${name}`}
      confirm={CONFIRMS[kind]}
      variant={kind === 'force' ? 'danger' : 'primary'}
      of={form}
      onClose={onClose}
    >
      {kind !== 'forward' && (
        <TextField form={form.form} name="text" id="reason-text" label={WHY[kind]} rows={3} autoFocus max={2000} />
      )}
      <MoveQuestionsPart form={form.form} questions={questions} />
    </FormDialog>
  );
}
