import type { DealId } from '@ladder/core';
import { outcomeOf } from '@ladder/core';
import type { FormEvent } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { UseFormReturn } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { problemOf } from '../../client/api.ts';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { boxProblem } from '../../parts/form/boxProblem.ts';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { countOf } from '../../parts/format.ts';
import { Options } from '../../parts/Options.tsx';
import { Pieces } from '../../parts/Pieces.tsx';
import { isOpenItem } from './DropVerdict.tsx';
import {
  type DealDetail,
  useGetDealQuery,
  useMoveDealMutation,
  usePreviewMoveQuery,
  type Verdict,
} from './dealsApi.ts';
import { MoveQuestionsPart } from './MoveQuestionsPart.tsx';
import { answersToSend, type MoveAnswers, moveQuestions, NO_ANSWERS } from './moveQuestions.ts';
import { useSeenRevision } from './useSeenRevision.ts';

interface CloseDialogProps {
  readonly deal: DealId;
  readonly outcome: string;
  readonly onClose: () => void;
}

/** Closing a deal: what the rest of the ladder still asks, the reason, and when to come back to it. */
export function CloseDialog({ deal: id, outcome, onClose }: CloseDialogProps) {
  const { data: deal } = useGetDealQuery(id, { refetchOnMountOrArgChange: true });
  const { data: verdict } = usePreviewMoveQuery(
    { deal: id, target: { to: 'outcome', outcome } },
    { refetchOnMountOrArgChange: true },
  );
  return (
    <Modal show onHide={onClose} centered aria-labelledby="close-title">
      <Modal.Header closeButton>
        <h2 id="close-title">Close as {deal && outcomeName(deal, outcome)}</h2>
      </Modal.Header>
      {deal && verdict && <CloseForm deal={deal} verdict={verdict} outcome={outcome} onClose={onClose} />}
    </Modal>
  );
}

interface CloseFormProps extends Omit<CloseDialogProps, 'deal'> {
  readonly deal: DealDetail;
  readonly verdict: Verdict;
}

interface Closing extends MoveAnswers {
  readonly reason: string;
  readonly followUp: string;
  readonly text: string;
}

function CloseForm({ deal, verdict, outcome, onClose }: CloseFormProps) {
  const { organisation } = useSession();
  const questions = moveQuestions(deal, { to: 'outcome', outcome }, organisation.today);
  const closing = useClosing(deal, outcome, onClose);
  const { form, submit, error } = closing;
  const reasons = deal.reasons.filter((candidate) => candidate.outcome === outcome);
  const chosen = reasons.find(({ id }) => id === form.watch('reason'));
  const send = (event: FormEvent) => {
    event.preventDefault();
    submit();
  };
  return (
    <Form onSubmit={send} noValidate>
      <Modal.Body>
        <p>{deal.name}</p>
        <StillAsked verdict={verdict} />
        {reasons.length > 0 && <ReasonChoice form={form} reasons={reasons} />}
        {chosen?.followUp === 'asked' && (
          <TextField form={form} name="followUp" id="close-follow-up" label="Come back to it on" type="date" max={10} />
        )}
        <MoveQuestionsPart form={form} questions={questions} />
        <TextField form={form} name="text" id="close-text" label="In your own words, if you like" rows={2} max={2000} />
        <ErrorNotice error={error} />
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-secondary" onClick={onClose}>
          Cancel
        </Button>
        <Button type="submit" disabled={form.formState.isSubmitting}>
          Close as {outcomeName(deal, outcome)}
        </Button>
      </Modal.Footer>
    </Form>
  );
}

/** Closes the deal; a held closing leads to what is missing. */
function useClosing(deal: DealDetail, outcome: string, onClose: () => void) {
  const navigate = useNavigate();
  const [moveDeal] = useMoveDealMutation();
  const seenRevision = useSeenRevision();
  const leave = async (search: string) => {
    onClose();
    await navigate(`/deals/${deal.id}${search}`);
  };
  return useBodyForm({
    begin: { ...NO_ANSWERS, reason: '', followUp: '', text: '' } as Closing,
    schema: (contract) => contract.deal.move,
    toBody: ({ reason, followUp, text, ...answers }) => ({
      target: { to: 'outcome' as const, outcome },
      revision: deal.revision,
      ...(reason ? { reason } : {}),
      ...(followUp ? { followUp } : {}),
      ...(text.trim() ? { text: text.trim() } : {}),
      ...answersToSend(deal, answers),
    }),
    send: async (body) => {
      const answer = await moveDeal({ deal: deal.id, body: { ...body, revision: await seenRevision(deal) } });
      const isHeld = problemOf(answer.error)?.verdict !== undefined;
      if (isHeld) await leave(`?toward=${outcome}`);
      return isHeld ? {} : answer;
    },
    onDone: (moved) => (moved ? leave('') : undefined),
    words: { tasks: 'Choose what becomes of them.' },
  });
}

interface ReasonChoiceProps extends Pick<DealDetail, 'reasons'> {
  readonly form: UseFormReturn<Closing>;
}

function ReasonChoice({ form, reasons }: ReasonChoiceProps) {
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

/** An outcome as it is called within a sentence. */
const outcomeName = ({ document }: DealDetail, id: string): string =>
  (outcomeOf(document, id)?.name ?? id).toLowerCase();

/** What closing as won from the middle asks: all that the rest of the ladder would have. */
function StillAsked({ verdict }: { verdict: Verdict }) {
  const open = verdict.items.filter(isOpenItem);
  if (open.length === 0) return null;
  const holding = open.filter(({ level }) => level === 'hold').length;
  return (
    <div className="still-asked">
      <b>
        {holding > 0
          ? `${countOf(holding, 'requirement')} of the rest of the ladder ${holding === 1 ? 'holds' : 'hold'} this`
          : `Passes with ${countOf(open.length, 'flag')}`}
      </b>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a list that scrolls is reached by keyboard */}
      <ul tabIndex={0} aria-label="Still asked">
        {open.map((item) => (
          <li key={item.id} className={item.level === 'hold' ? 'edge-hold' : 'edge-flag'}>
            <Pieces says={item.says} />
          </li>
        ))}
      </ul>
    </div>
  );
}
