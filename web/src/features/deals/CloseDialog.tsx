import { outcomeOf } from '@ladder/core';
import { type FormEvent, useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import { problemAt, problemOf } from '../../client/api.ts';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { countOf } from '../../parts/format.ts';
import { Pieces } from '../../parts/Pieces.tsx';
import { isOpenItem } from './DropVerdict.tsx';
import {
  type DealDetail,
  useGetDealQuery,
  useMoveDealMutation,
  usePreviewMoveQuery,
  type Verdict,
} from './dealsApi.ts';
import { useSeenRevision } from './useSeenRevision.ts';

interface CloseDialogProps {
  readonly deal: string;
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

interface Closing {
  readonly reason: string;
  readonly followUp: string;
  readonly text: string;
}

function CloseForm({ deal, verdict, outcome, onClose }: CloseFormProps) {
  const [closing, setClosing] = useState<Closing>({ reason: '', followUp: '', text: '' });
  const { close, error, isLoading } = useClosing(deal, outcome, onClose);
  const set = (made: Partial<Closing>) => setClosing((old) => ({ ...old, ...made }));
  const reasons = deal.reasons.filter((candidate) => candidate.outcome === outcome);
  const chosen = reasons.find(({ id }) => id === closing.reason);
  const problem = problemOf(error);
  const part = { closing, set, problem };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void close(closing);
  };
  return (
    <Form onSubmit={submit} noValidate>
      <Modal.Body>
        <p>{deal.name}</p>
        <StillAsked verdict={verdict} />
        {reasons.length > 0 && <ReasonChoice {...part} reasons={reasons} />}
        {chosen?.followUp === 'asked' && <FollowUpDay {...part} />}
        <Form.Group controlId="close-text">
          <Form.Label>In your own words, if you like</Form.Label>
          <Form.Control
            as="textarea"
            rows={2}
            maxLength={2000}
            value={closing.text}
            onChange={(event) => set({ text: event.target.value })}
          />
        </Form.Group>
        {problem && !problem.errors && !problem.verdict && <ErrorNotice error={error} />}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-secondary" onClick={onClose}>
          Cancel
        </Button>
        <Button type="submit" disabled={isLoading}>
          Close as {outcomeName(deal, outcome)}
        </Button>
      </Modal.Footer>
    </Form>
  );
}

/** Closes the deal; a held closing leads to what is missing. */
function useClosing(deal: DealDetail, outcome: string, onClose: () => void) {
  const navigate = useNavigate();
  const [moveDeal, { error, isLoading }] = useMoveDealMutation();
  const seenRevision = useSeenRevision();
  const close = async ({ reason, followUp, text }: Closing) => {
    const body = {
      target: { to: 'outcome' as const, outcome },
      revision: await seenRevision(deal),
      ...(reason ? { reason } : {}),
      ...(followUp ? { followUp } : {}),
      ...(text.trim() ? { text: text.trim() } : {}),
    };
    const answer = await moveDeal({ deal: deal.id, body });
    const held = problemOf(answer.error)?.verdict;
    if (answer.error && !held) return;
    onClose();
    await navigate(held ? `/deals/${deal.id}?toward=${outcome}` : `/deals/${deal.id}`);
  };
  return { close, error, isLoading };
}

interface ClosingPartProps {
  readonly closing: Closing;
  readonly set: (made: Partial<Closing>) => void;
  readonly problem: ReturnType<typeof problemOf>;
}

function ReasonChoice({ closing, set, problem, reasons }: ClosingPartProps & Pick<DealDetail, 'reasons'>) {
  const wrong = problemAt(problem, '/reason');
  return (
    <Form.Group controlId="close-reason" className="mb-2">
      <Form.Label>Reason</Form.Label>
      <Form.Select
        value={closing.reason}
        isInvalid={wrong !== undefined}
        onChange={(event) => set({ reason: event.target.value })}
      >
        <option value="">Choose…</option>
        {reasons.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </Form.Select>
      <Form.Control.Feedback type="invalid">{wrong}</Form.Control.Feedback>
    </Form.Group>
  );
}

function FollowUpDay({ closing, set, problem }: ClosingPartProps) {
  const { organisation } = useSession();
  const wrong = problemAt(problem, '/followUp');
  return (
    <Form.Group controlId="close-follow-up" className="mb-2">
      <Form.Label>Come back to it on</Form.Label>
      <Form.Control
        type="date"
        min={organisation.today}
        value={closing.followUp}
        isInvalid={wrong !== undefined}
        onChange={(event) => set({ followUp: event.target.value })}
      />
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
