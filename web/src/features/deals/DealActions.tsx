import type { StageId } from '@ladder/core';
import { type MoveTarget, placeOf, stageOf, targetText } from '@ladder/core';
import { useState } from 'react';
import { Button, Dropdown } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import { problemOf } from '../../client/api.ts';
import { useSession } from '../../client/session.ts';
import { CloseDialog } from './CloseDialog.tsx';
import { isOpenItem } from './DropVerdict.tsx';
import {
  type DealDetail,
  useMoveDealMutation,
  useTakeBackMoveMutation,
  useWithdrawAttemptMutation,
} from './dealsApi.ts';
import { MoveDialog, type MoveExtra } from './MoveDialog.tsx';
import { moveQuestions } from './moveQuestions.ts';
import { OwnerDialog } from './OwnerDialog.tsx';
import { ReasonDialog } from './ReasonDialog.tsx';
import { rungName } from './rungName.ts';
import { useSeenRevision } from './useSeenRevision.ts';
import { VoidDialog } from './VoidDialog.tsx';

type Dialog =
  | { readonly kind: 'close'; readonly outcome: string }
  | { readonly kind: 'forward' | 'return' | 'force'; readonly target: MoveTarget; readonly name: string }
  | { readonly kind: 'take_back' }
  | { readonly kind: 'owner' }
  | { readonly kind: 'void' };

/** Moving on stays pressable whatever the gate says; pressing asks it. */
export function DealActions({ deal, verdict }: { deal: DealDetail; verdict: DealDetail['gate'] }) {
  const [dialog, setDialog] = useState<Dialog | null>(null);
  const { move, why } = useMove(deal, setDialog);
  if (deal.status.state !== 'open')
    return (
      <div className="deal-acts">
        <TakeBackButton deal={deal} onAsk={() => setDialog({ kind: 'take_back' })} />
        <Dialogs deal={deal} dialog={dialog} move={move} onClose={() => setDialog(null)} />
      </div>
    );
  if (!deal.may.change) return <div className="deal-acts" />;
  const holds = verdict?.answer === 'holds';
  return (
    <div className="deal-acts">
      <TakeBackButton deal={deal} onAsk={() => setDialog({ kind: 'take_back' })} />
      <Dropdown align="end">
        <Dropdown.Toggle variant="outline-secondary">Close deal</Dropdown.Toggle>
        <Dropdown.Menu>
          {deal.document.outcomes.map(({ id, name }) => (
            <Dropdown.Item key={id} onClick={() => setDialog({ kind: 'close', outcome: id })}>
              As {name.toLowerCase()}…
            </Dropdown.Item>
          ))}
        </Dropdown.Menu>
      </Dropdown>
      <MoveMenu deal={deal} move={move} ask={setDialog} />
      {verdict && (
        <Button
          variant={holds ? 'outline-primary' : 'primary'}
          aria-describedby="move-why"
          onClick={() => move(verdict.target)}
        >
          Move on
        </Button>
      )}
      <p id="move-why" className={`deal-why ${holds ? 'text-held' : 'muted'}`} role="status">
        {why ?? whyText(deal, verdict)}
      </p>
      <Dialogs deal={deal} dialog={dialog} move={move} onClose={() => setDialog(null)} />
    </div>
  );
}

const NAMES_SHOWN = 3;

/** Under the button, always: what holds the move, or where it leads. */
function whyText(deal: DealDetail, verdict: DealDetail['gate']): string {
  if (!verdict) return '';
  const target = rungName(deal, verdict.target);
  const holding = verdict.items.filter((item) => isOpenItem(item) && item.level === 'hold');
  if (holding.length === 0) return verdict.answer === 'flags' ? `To ${target}; it will be flagged` : `To ${target}`;
  const names = holding.slice(0, NAMES_SHOWN).map(({ says }) => says[0]?.text ?? '');
  const more = holding.length > NAMES_SHOWN ? ` and ${holding.length - NAMES_SHOWN} more` : '';
  return `${holding.length === 1 ? '1 requirement holds' : `${holding.length} requirements hold`} it: ${names.join(', ')}${more}`;
}

/** Null once it is asked for words first. */
type Move = (target: MoveTarget, extra?: MoveExtra) => Promise<{ readonly error?: unknown } | null>;

function useMove(deal: DealDetail, ask: (dialog: Dialog | null) => void): { move: Move; why: string | null } {
  const [moveDeal] = useMoveDealMutation();
  const seenRevision = useSeenRevision();
  const [why, setWhy] = useState<string | null>(null);
  const navigate = useNavigate();
  const { organisation } = useSession();
  const askFirst = (dialog: Dialog): null => {
    ask(dialog);
    return null;
  };
  const move: Move = async (target, extra) => {
    if (target.to === 'outcome') return askFirst({ kind: 'close', outcome: target.outcome });
    const questions = moveQuestions(deal, target, organisation.today);
    const isAsked = extra === undefined && (questions.tasks > 0 || questions.next === 'yes');
    if (isAsked) return askFirst({ kind: 'forward', target, name: stageOf(deal.document, target.stage)?.name ?? '' });
    const answer = await moveDeal({ deal: deal.id, body: { target, revision: await seenRevision(deal), ...extra } });
    const problem = problemOf(answer.error);
    // What is wrong with what was written is told where that was.
    if (problem?.errors && extra) return answer;
    ask(null);
    setWhy(problem && !problem.verdict ? (problem.detail ?? problem.title) : null);
    if (problem?.verdict) await navigate({ search: `?toward=${targetText(target)}` }, { replace: true });
    if (!problem) await navigate({ search: '' }, { replace: true });
    return {};
  };
  return { move, why };
}

/** Any other stage: ahead through its gate, back with a reason, or by force where the person may. */
function MoveMenu({ deal, move, ask }: { deal: DealDetail; move: Move; ask: (dialog: Dialog) => void }) {
  const here = placeOf(deal.document, deal.stage);
  const to = (stage: StageId): MoveTarget => ({ to: 'stage', stage });
  const [withdraw] = useWithdrawAttemptMutation();
  return (
    <Dropdown align="end">
      <Dropdown.Toggle variant="outline-secondary">Other move</Dropdown.Toggle>
      <Dropdown.Menu>
        {deal.document.stages.map(({ id, name }, place) =>
          place === here ? null : (
            <Dropdown.Item
              key={id}
              onClick={() => (place > here ? move(to(id)) : ask({ kind: 'return', target: to(id), name }))}
            >
              {place > here ? `On to ${name}` : `Back to ${name}…`}
            </Dropdown.Item>
          ),
        )}
        {deal.attempt && <Dropdown.Divider />}
        {deal.attempt && <Dropdown.Item onClick={() => withdraw(deal.id)}>Give up the refused move</Dropdown.Item>}
        {deal.may.force && <Dropdown.Divider />}
        {deal.may.force &&
          deal.document.stages.slice(here + 1).map(({ id, name }) => (
            <Dropdown.Item key={`force ${id}`} onClick={() => ask({ kind: 'force', target: to(id), name })}>
              Force to {name}…
            </Dropdown.Item>
          ))}
        <Dropdown.Divider />
        <Dropdown.Item onClick={() => ask({ kind: 'owner' })}>Change the owner…</Dropdown.Item>
        {deal.may.void && <Dropdown.Divider />}
        {deal.may.void && (
          <Dropdown.Item onClick={() => ask({ kind: 'void' })}>Void as a test or duplicate…</Dropdown.Item>
        )}
      </Dropdown.Menu>
    </Dropdown>
  );
}

const MOVE_NAMES: Readonly<Record<string, string>> = {
  won: 'the closing',
  lost: 'the closing',
  return: 'the move back',
};

function TakeBackButton({ deal, onAsk }: { deal: DealDetail; onAsk: () => void }) {
  if (!deal.takeBack) return null;
  return (
    <Button variant="outline-secondary" onClick={onAsk}>
      Take back {MOVE_NAMES[deal.takeBack.kind] ?? 'the move'}…
    </Button>
  );
}

interface DialogsProps {
  readonly deal: DealDetail;
  readonly dialog: Dialog | null;
  readonly move: Move;
  readonly onClose: () => void;
}

function Dialogs({ deal, dialog, move, onClose }: DialogsProps) {
  switch (dialog?.kind) {
    case undefined:
      return null;
    case 'close':
      return <CloseDialog deal={deal.id} outcome={dialog.outcome} onClose={onClose} />;
    case 'forward':
    case 'return':
    case 'force':
      return (
        <MoveDialog
          {...dialog}
          deal={deal}
          onMove={async (extra) => (await move(dialog.target, extra)) ?? {}}
          onClose={onClose}
        />
      );
    case 'take_back':
      return <TakeBackDialog deal={deal} onClose={onClose} />;
    case 'owner':
      return <OwnerDialog deals={[deal]} onClose={onClose} />;
    case 'void':
      return <VoidDialog deal={deal} onClose={onClose} />;
  }
}

function TakeBackDialog({ deal, onClose }: Pick<DialogsProps, 'deal' | 'onClose'>) {
  const [takeBack] = useTakeBackMoveMutation();
  const seenRevision = useSeenRevision();
  return (
    <ReasonDialog
      title="Take the last move back"
      label="What was wrong with it? The journal keeps both; paths and measures drop both."
      confirm="Take back"
      onConfirm={async (text) => takeBack({ deal: deal.id, body: { revision: await seenRevision(deal), text } })}
      onClose={onClose}
    />
  );
}
