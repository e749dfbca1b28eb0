import { type MoveTarget, outcomeOf, stageOf, targetFromText, targetText } from '@ladder/core';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { Pieces } from '../../parts/Pieces.tsx';
import { AskWaiver } from './AskWaiver.tsx';
import { isOpenItem } from './DropVerdict.tsx';
import type { DealDetail, Verdict, VerdictItem } from './dealsApi.ts';
import { RemedyControl } from './RemedyControl.tsx';
import { rungName } from './rungName.ts';

interface GatePanelProps {
  readonly deal: DealDetail;
  readonly verdict: Verdict;
  /** Whether this is another gate than the next one. */
  readonly isDetour: boolean;
  readonly onBack: () => void;
}

const ORDER = { unmet: 0, missing: 0, waived: 1, met: 2, not_applicable: 3 } as const;

/** What a move asks: what is missing first, each with its remedy in place. */
export function GatePanel({ deal, verdict, isDetour, onBack }: GatePanelProps) {
  const items = verdict.items.toSorted(
    (a, b) => ORDER[a.state] - ORDER[b.state] || Number(a.level === 'flag') - Number(b.level === 'flag'),
  );
  return (
    <section aria-labelledby="gate-title" className="gate">
      <h2 id="gate-title">
        {titleOf(deal, verdict)} <small>{summaryOf(verdict)}</small>
        <AskWaiver deal={deal} verdict={verdict} />
        {isDetour && (
          <Button variant="link" onClick={onBack}>
            Back to the next stage
          </Button>
        )}
      </h2>
      {deal.attempt && <Refused deal={deal} attempt={deal.attempt} shown={verdict.target} />}
      {items.length === 0 ? (
        <p className="muted">Nothing is asked here.</p>
      ) : (
        <div className="card">
          {items.map((item) => (
            <GateRow key={item.id} item={item} deal={deal} />
          ))}
        </div>
      )}
    </section>
  );
}

interface RefusedProps {
  readonly deal: DealDetail;
  readonly attempt: NonNullable<DealDetail['attempt']>;
  /** The target of the gate that is shown, which need not be the one that was refused. */
  readonly shown: MoveTarget;
}

function Refused({ deal, attempt, shown }: RefusedProps) {
  const isShown = targetText(shown) === attempt.target;
  return (
    <p className="small text-held">
      A move{isShown ? '' : ` to ${rungName(deal, targetFromText(attempt.target))}`} was refused
      {attempt.by ? `, asked by ${attempt.by}` : ''}; the deal counts as held until {isShown ? 'this' : 'that'} is put
      right or the move is given up. {!isShown && <Link to={`?toward=${attempt.target}`}>What it needs</Link>}
    </p>
  );
}

function titleOf(deal: DealDetail, { target, over }: Verdict): string {
  if (target.to === 'outcome') {
    const name = (outcomeOf(deal.document, target.outcome)?.name ?? target.outcome).toLowerCase();
    return `To close as ${name}${over.length > 0 ? ' from here' : ''}`;
  }
  return `To reach ${stageOf(deal.document, target.stage)?.name ?? 'a stage that is gone'}`;
}

function summaryOf({ items }: Verdict): React.ReactNode {
  const asked = items.filter(({ state }) => state !== 'not_applicable');
  const open = asked.filter(isOpenItem);
  const holding = open.filter(({ level }) => level === 'hold').length;
  const flagging = open.length - holding;
  return (
    <>
      {asked.length - open.length} of {asked.length} met
      {holding > 0 && (
        <b className="text-held">
          , {holding} {holding === 1 ? 'holds' : 'hold'} the move
        </b>
      )}
      {flagging > 0 && `, ${flagging} only ${flagging === 1 ? 'flags' : 'flag'}`}
    </>
  );
}

const STATE_WORDS: Readonly<Record<VerdictItem['state'], string>> = {
  met: '✓ met',
  unmet: 'not met',
  missing: 'missing',
  waived: 'waived',
  not_applicable: 'does not apply',
};

function GateRow({ item, deal }: { item: VerdictItem; deal: DealDetail }) {
  const isOpen = isOpenItem(item);
  const edge = isOpen ? (item.level === 'hold' ? 'edge-hold' : 'edge-flag') : 'edge-met';
  return (
    <div className={`gate-row ${edge} ${isOpen ? 'open' : ''}`} id={`gate-${item.id}`}>
      <div>
        <Pieces says={item.says} />
        <GateNote item={item} deal={deal} />
      </div>
      <div className="gate-remedy">
        {isOpen && deal.may.change ? (
          <RemedyControl item={item} deal={deal} />
        ) : (
          <span className="small muted">{item.actual ?? ''}</span>
        )}
      </div>
      <span
        className={`gate-state ${isOpen ? (item.level === 'hold' ? 'text-held' : 'text-flagged') : item.state === 'met' ? 'text-good' : 'muted'}`}
      >
        {STATE_WORDS[item.state]}
      </span>
    </div>
  );
}

/** Why an item is asked, in a line below it. */
function GateNote({ item, deal }: { item: VerdictItem; deal: DealDetail }) {
  const notes = [
    item.message,
    item.passedOver && item.stage
      ? `Asked by ${stageOf(deal.document, item.stage)?.name ?? 'a stage'}, which the move passes over`
      : null,
    item.at === 'checklist' && !item.passedOver ? 'Must item of the checklist' : null,
    item.level === 'flag' && isOpenItem(item) ? 'Flags the deal, does not hold it' : null,
    item.mayApply.length > 0
      ? `May apply: fill ${item.mayApply.map((id) => deal.fields.find((field) => field.id === id)?.name ?? id).join(', ')}`
      : null,
    item.mayApplyRates.length > 0
      ? `May apply: no exchange rate ${item.mayApplyRates.map(({ from, to }) => `from ${from} to ${to}`).join(', ')}`
      : null,
    item.remedy.kind === 'set_rate' && item.actual ? `It is ${item.actual}` : null,
    item.state === 'unmet' && item.remedy.kind !== 'tick' && item.actual ? `It is ${item.actual} now` : null,
  ].filter((note) => note);
  return notes.length > 0 ? <small>{notes.join(' · ')}</small> : null;
}
