import type { FactValue, GuidedStep, Stage } from '@ladder/core';
import { stageOf } from '@ladder/core';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { countOf, dayOf, shortDay } from '../../parts/format.ts';
import { StepCard } from '../steps/StepCard.tsx';
import { type DealDetail, type StepAtHand, type StepDone, useTakeResultBackMutation } from './dealsApi.ts';
import { PassDialog } from './PassDialog.tsx';
import { PutOffDialog } from './PutOffDialog.tsx';
import { ReasonDialog } from './ReasonDialog.tsx';
import { ResultDialog } from './ResultDialog.tsx';
import { stepCardId } from './stepCardId.ts';
import { useResult } from './useResult.ts';

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
  const stage = stageOf(deal.document, run.stage);
  const step = stage?.steps.find(({ id }) => id === run.step);
  if (!stage || !step) return null;
  return (
    <>
      <Thread deal={deal} stage={stage} atHand={run} />
      <OpenStep deal={deal} run={run} stage={stage} step={step} />
    </>
  );
}

interface OpenStepProps {
  readonly deal: DealDetail;
  readonly run: StepAtHand;
  readonly stage: Stage;
  readonly step: GuidedStep;
}

function OpenStep({ deal, run, stage, step }: OpenStepProps) {
  const result = useResult(deal, run, stage, step);
  const names = { ...deal.names };
  return (
    <>
      <StepCard
        id={stepCardId(run)}
        process={deal.document}
        stage={stage}
        step={step}
        owed={run.owed ? 'yes' : 'no'}
        about={aboutOf(run, stage)}
        due={<Due run={run} />}
        catalogue={new Map(deal.fields.map((field) => [field.id, field]))}
        currency={deal.currency}
        names={names}
        values={{ ...deal.values, ...result.filled }}
        problems={result.problems}
        disabled={!deal.may.change || result.isBusy}
        onFill={(field: string, value: FactValue) => result.fill(field, value)}
        onResult={result.choose}
      >
        <GoesOn run={run} step={step} />
        {deal.may.change && <More deal={deal} run={run} />}
        <ErrorNotice error={result.error} />
      </StepCard>
      {result.asking && (
        <ResultDialog
          deal={deal}
          stage={stage}
          step={step}
          result={result.asking}
          send={result.send}
          onClose={result.giveUp}
        />
      )}
    </>
  );
}

const TIMES = ['', 'second try', 'third try'] as const;

function aboutOf(run: StepAtHand, stage: Stage): string {
  const tries = run.doneBefore === 0 ? '' : (TIMES[run.doneBefore] ?? `try ${run.doneBefore + 1}`);
  const owed = run.owed ? `owed from ${stage.name}` : '';
  const said = [tries, owed].filter((part) => part).join(', ');
  return [said, run.person?.name ?? 'nobody’s yet'].filter((part) => part).join(' · ');
}

function Due({ run }: { run: StepAtHand }) {
  const { organisation } = useSession();
  if (run.dueDay === null) return null;
  const day = shortDay(run.dueDay, organisation.today);
  if (run.daysLate > 0)
    return (
      <b className="text-held">
        due {day}, {countOf(run.daysLate, 'day')} late
      </b>
    );
  return <>{run.dueDay === organisation.today ? 'due today' : `due ${day}`}</>;
}

function GoesOn({ run, step }: Pick<OpenStepProps, 'run' | 'step'>) {
  const { organisation } = useSession();
  if (!run.goesOn) return null;
  const { at, result } = run.goesOn;
  const name = step.results.find(({ id }) => id === result)?.name ?? 'a result that is gone';
  return (
    <p className="small muted mt-2 mb-0">
      Goes on by itself on {shortDay(dayOf(at, organisation), organisation.today)}, as “{name}”, unless someone ends it
      before.
    </p>
  );
}

/** What else can be done with a step at hand. */
function More({ deal, run }: { deal: DealDetail; run: StepAtHand }) {
  const { person } = useSession();
  const [dialog, setDialog] = useState<'pass' | 'put_off' | null>(null);
  const close = () => setDialog(null);
  return (
    <div className="step-more">
      <Button variant="link" onClick={() => setDialog('put_off')}>
        {run.dueDay === null ? 'Set a due day…' : 'Put off…'}
      </Button>
      <Button variant="link" onClick={() => setDialog('pass')}>
        {run.person?.id === person.id ? 'Pass on…' : 'Take or pass on…'}
      </Button>
      {dialog === 'put_off' && <PutOffDialog deal={deal} run={run} onClose={close} />}
      {dialog === 'pass' && <PassDialog deal={deal} run={run} onClose={close} />}
    </div>
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
