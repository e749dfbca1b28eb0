import { type FactValue, type GuidedStep, type Stage, stageOf } from '@ladder/core';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { countOf, dayOf, shortDay } from '../../parts/format.ts';
import { StepCard } from '../steps/StepCard.tsx';
import type { DealDetail, StepAtHand } from './dealsApi.ts';
import { PassStepDialog } from './PassDialog.tsx';
import { PutOffDialog } from './PutOffDialog.tsx';
import { ResultDialog } from './ResultDialog.tsx';
import { stepCardId } from './stepCardId.ts';
import { type ResultTaken, useResult } from './useResult.ts';

interface StepAtHandCardProps {
  readonly deal: DealDetail;
  readonly run: StepAtHand;
  /** Whether its results are told with the digits that give them. */
  readonly keys?: 'numbered';
  readonly onEnded: (taken: ResultTaken) => void | Promise<void>;
}

/** A step at hand, where it is done: filled in, ended, put off, passed on. */
export function StepAtHandCard(props: StepAtHandCardProps) {
  const { deal, run } = props;
  const stage = stageOf(deal.document, run.stage);
  const step = stage?.steps.find(({ id }) => id === run.step);
  return stage && step ? <OpenStep {...props} stage={stage} step={step} /> : null;
}

interface OpenStepProps extends StepAtHandCardProps {
  readonly stage: Stage;
  readonly step: GuidedStep;
}

function OpenStep({ deal, run, stage, step, keys, onEnded }: OpenStepProps) {
  const result = useResult(deal, run, stage, step, onEnded);
  const names = { ...deal.names };
  return (
    <>
      <StepCard
        id={stepCardId(run)}
        process={deal.document}
        stage={stage}
        step={step}
        {...(keys ? { keys } : {})}
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
      <Button variant="link" data-act="later" onClick={() => setDialog('put_off')}>
        {run.dueDay === null ? 'Set a due day…' : 'Put off…'}
      </Button>
      <Button variant="link" onClick={() => setDialog('pass')}>
        {run.person?.id === person.id ? 'Pass on…' : 'Take or pass on…'}
      </Button>
      {dialog === 'put_off' && <PutOffDialog deal={deal.id} run={run} onClose={close} />}
      {dialog === 'pass' && <PassStepDialog deal={deal} run={run} onClose={close} />}
    </div>
  );
}
