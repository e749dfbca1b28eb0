import { type Stage, stageOf, targetText } from '@ladder/core';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import { useSession } from '../../client/session.ts';
import { shortDay } from '../../parts/format.ts';
import { type DealDetail, type StepAtHand, type StepDone, useTakeResultBackMutation } from './dealsApi.ts';
import { ReasonDialog } from './ReasonDialog.tsx';
import { StepAtHandCard } from './StepAtHandCard.tsx';
import type { ResultTaken } from './useResult.ts';

/** The steps at hand, those that are owed first, and what of their threads is done. */
export function StepsPanel({ deal }: { deal: DealDetail }) {
  if (deal.status.state !== 'open') return null;
  const present = stageOf(deal.document, deal.stage);
  const isBegun = deal.stepsAtHand.some(({ stage, owed }) => stage === deal.stage && !owed);
  return (
    <>
      {deal.stepsAtHand.map((run) => (
        <StepAtHandPart key={run.seq} deal={deal} run={run} />
      ))}
      {present && !isBegun && <Thread deal={deal} stage={present} atHand={null} />}
    </>
  );
}

function StepAtHandPart({ deal, run }: { deal: DealDetail; run: StepAtHand }) {
  const navigate = useNavigate();
  const stage = stageOf(deal.document, run.stage);
  if (!stage) return null;
  const showMove = async ({ move }: ResultTaken) => {
    if (move) await navigate({ search: move.result === 'held' ? `?toward=${targetText(move.verdict.target)}` : '' });
  };
  return (
    <>
      <Thread deal={deal} stage={stage} atHand={run} />
      <StepAtHandCard deal={deal} run={run} onEnded={showMove} />
    </>
  );
}

interface ThreadProps {
  readonly deal: DealDetail;
  readonly stage: Stage;
  /** Null where the stage's steps are over. */
  readonly atHand: StepAtHand | null;
}

/** The thread of a stage's steps in this stay: what is done, what is at hand, and what usually comes then. */
function Thread({ deal, stage, atHand }: ThreadProps) {
  const { organisation } = useSession();
  const stay = atHand?.visitSeq ?? deal.visits.at(-1)?.seq;
  const owed = atHand?.owed ?? false;
  const done = deal.stepsDone.filter(
    (run) => run.stage === stage.id && run.visitSeq === stay && run.owed === owed && run.resultName !== null,
  );
  const then = atHand && stage.steps[stage.steps.findIndex(({ id }) => id === atHand.step) + 1];
  if (done.length === 0 && !then) return null;
  return (
    <ul className="thread" aria-label={`Steps of ${stage.name}`}>
      {done.slice(-5).map((run) => (
        <li key={run.seq}>
          ✓ {run.name}: {run.resultName}, {shortDay(run.day, organisation.today)}
          {run.how === 'carried' && ' (earlier stay)'}
          {run.takeBack && deal.may.change && <TakeBack deal={deal} run={run} />}
        </li>
      ))}
      {atHand ? (
        <li>
          <b>Now: {atHand.name}</b>
        </li>
      ) : (
        <li>
          <b>Steps finished</b>
        </li>
      )}
      {then && <li>Then: {then.name}</li>}
    </ul>
  );
}

function TakeBack({ deal, run }: { deal: DealDetail; run: StepDone }) {
  const [isAsked, setAsked] = useState(false);
  const [takeBack] = useTakeResultBackMutation();
  return (
    <>
      {' '}
      <Button variant="link" aria-label={`Take back ${run.name}: ${run.resultName}`} onClick={() => setAsked(true)}>
        Take back…
      </Button>
      {isAsked && (
        <ReasonDialog
          title={`Take “${run.resultName}” back`}
          label="What was wrong with it? The step is at hand again; a move that it made is taken back with it."
          confirm="Take back"
          onConfirm={(text) => takeBack({ deal: deal.id, run: run.seq, body: { text } })}
          onClose={() => setAsked(false)}
        />
      )}
    </>
  );
}
