import type { DealId, MoveTarget } from '@ladder/core';
import { outcomeOf } from '@ladder/core';
import type { FormEvent } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import { problemOf } from '../../client/api.ts';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { DialogEnd } from '../../parts/form/DialogEnd.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { countOf } from '../../parts/format.ts';
import { Pieces } from '../../parts/Pieces.tsx';
import { ClosingPart } from './ClosingPart.tsx';
import { beginClosing, type ClosingAnswers, closingToSend, fieldsAsked } from './closing.ts';
import { isOpenItem } from './DropVerdict.tsx';
import {
  type DealDetail,
  useGetDealQuery,
  useMoveDealMutation,
  usePreviewMoveQuery,
  type Verdict,
  type VerdictItem,
} from './dealsApi.ts';
import { useSeenRevision } from './useSeenRevision.ts';

type OutcomeTarget = MoveTarget & { readonly to: 'outcome' };

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

function CloseForm({ deal, verdict, outcome, onClose }: CloseFormProps) {
  const target = { to: 'outcome', outcome } as const;
  const { form, submit, error } = useClosing(deal, target, onClose);
  const send = (event: FormEvent) => {
    event.preventDefault();
    submit();
  };
  return (
    <Form onSubmit={send} noValidate>
      <Modal.Body>
        <p>{deal.name}</p>
        <StillAsked verdict={verdict} asked={fieldsAsked(deal, target, verdict).map(({ id }) => id)} />
        <ClosingPart {...{ form, deal, target, verdict }} />
        <ErrorNotice error={error} />
      </Modal.Body>
      <DialogEnd onCancel={onClose}>
        <Button type="submit" disabled={form.formState.isSubmitting}>
          Close as {outcomeName(deal, outcome)}
        </Button>
      </DialogEnd>
    </Form>
  );
}

/** Closes the deal; a held closing leads to what is missing. */
function useClosing(deal: DealDetail, target: OutcomeTarget, onClose: () => void) {
  const navigate = useNavigate();
  const { organisation } = useSession();
  const [moveDeal] = useMoveDealMutation();
  const seenRevision = useSeenRevision();
  const leave = async (search: string) => {
    onClose();
    await navigate(`/deals/${deal.id}${search}`);
  };
  return useBodyForm({
    begin: beginClosing(deal, organisation.today),
    schema: (contract) => contract.deal.move,
    toBody: (answers: ClosingAnswers) => ({
      target: target as MoveTarget,
      revision: deal.revision,
      ...closingToSend(deal, target, answers),
    }),
    send: async (body) => {
      const answer = await moveDeal({ deal: deal.id, body: { ...body, revision: await seenRevision(deal) } });
      const isHeld = problemOf(answer.error)?.verdict !== undefined;
      if (isHeld) await leave(`?toward=${target.outcome}`);
      return isHeld ? {} : answer;
    },
    onDone: (moved) => (moved ? leave('') : undefined),
    words: { tasks: 'Choose what becomes of them.' },
  });
}

/** An outcome as it is called within a sentence. */
const outcomeName = ({ document }: DealDetail, id: string): string =>
  (outcomeOf(document, id)?.name ?? id).toLowerCase();

interface StillAskedProps {
  readonly verdict: Verdict;
  /** Fields that the dialog asks for itself. */
  readonly asked: readonly string[];
}

/** What closing as won from the middle asks: all that the rest of the ladder would have. */
function StillAsked({ verdict, asked }: StillAskedProps) {
  const isAsked = ({ remedy }: VerdictItem) =>
    remedy.kind === 'fill' && remedy.fields.every((field) => asked.includes(field));
  const open = verdict.items.filter((item) => isOpenItem(item) && !isAsked(item));
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
