import { addDays, calendarDaysOf, daysBetween, isMoney, moveOnDay, placeOf, type Stage } from '@ladder/core';
import { useSession } from '../../client/session.ts';
import { countOf, dayOf, shortDay } from '../../parts/format.ts';
import { Notch } from '../../parts/Notch.tsx';
import { Pieces } from '../../parts/Pieces.tsx';
import type { DealDetail } from './dealsApi.ts';
import { RungSteps } from './RungSteps.tsx';
import { stepCardId } from './stepCardId.ts';

/** The deal's own ladder: the stays it made with their days, where it is, what it skipped, and what lies ahead. */
export function ClimbLadder({ deal }: { deal: DealDetail }) {
  const here = placeOf(deal.document, deal.stage);
  const ahead = usePaceAhead(deal);
  const count = deal.document.stages.length;
  return (
    <section className="climb" aria-label="Where it stands">
      <div className="ladder">
        {deal.document.stages.map((stage, place) => {
          const state = stateOf(deal, stage, place, here);
          return (
            <div key={stage.id} className={`rung ${state}`} aria-current={state === 'now' ? 'step' : undefined}>
              <Notch place={place} count={count} />
              <RungText deal={deal} stage={stage} state={state} days={ahead.get(stage.id)} />
            </div>
          );
        })}
      </div>
      <Pace deal={deal} end={[...ahead.values()].at(-1)?.[1]} />
    </section>
  );
}

type RungState = 'been' | 'skip' | 'now' | 'later';

function stateOf(deal: DealDetail, stage: Stage, place: number, here: number): RungState {
  if (stage.id === deal.stage) return 'now';
  if (deal.visits.some((visit) => visit.stage === stage.id)) return 'been';
  return place < here || deal.path.some(({ over }) => over.includes(stage.id)) ? 'skip' : 'later';
}

function RungText({
  deal,
  stage,
  state,
  days,
}: {
  deal: DealDetail;
  stage: Stage;
  state: RungState;
  days: readonly [string, string] | undefined;
}) {
  const { organisation } = useSession();
  const day = (text: string) => shortDay(text, organisation.today);
  if (state === 'skip') return <SkippedRung deal={deal} stage={stage} />;
  if (state === 'later') {
    return (
      <div>
        <h3>
          {stage.name} <span>{stage.target ? countOf(calendarDaysOf(stage.target, deal.calendar), 'day') : ''}</span>
        </h3>
        {days && deal.status.state === 'open' && `${day(days[0])} to ${day(days[1])}, at target pace`}
      </div>
    );
  }
  const visits = deal.visits.filter((visit) => visit.stage === stage.id);
  const last = visits.at(-1);
  if (!last)
    return (
      <div>
        <h3>{stage.name}</h3>
      </div>
    );
  const target = last.moveOnDay === null ? null : daysBetween(last.enteredDay, last.moveOnDay);
  return (
    <div>
      <h3>
        {stage.name}{' '}
        <span>
          {state === 'now' && deal.status.state === 'open' ? `day ${last.days}` : last.days}
          {target === null ? (state === 'now' ? '' : ' days') : ` of ${target}${state === 'now' ? '' : ' days'}`}
        </span>
      </h3>
      {target !== null && <DaysBar days={last.days} target={target} />}
      <span>
        {last.leftDay
          ? `${day(last.enteredDay)} to ${day(last.leftDay)}`
          : `Since ${day(last.enteredDay)}${last.moveOnDay ? `, target ${day(last.moveOnDay)}` : ''}`}
        {visits.length > 1 &&
          ` · ${visits.length} stays, ${countOf(
            visits.reduce((sum, visit) => sum + visit.days, 0),
            'day',
          )} in all`}
      </span>
      <RungSteps deal={deal} stage={stage} />
    </div>
  );
}

/** How much of the target is used; what lies past it in another colour, with the target marked. */
function DaysBar({ days, target }: { days: number; target: number }) {
  const end = Math.max(days, target, 1);
  return (
    <div className="days" aria-hidden>
      <i style={{ width: `${(Math.min(days, target) / end) * 100}%` }} />
      {days > target && (
        <i className="over" style={{ left: `${(target / end) * 100}%`, width: `${((days - target) / end) * 100}%` }} />
      )}
      <u style={{ left: `calc(${(target / end) * 100}% - 2px)` }} />
    </div>
  );
}

function SkippedRung({ deal, stage }: { deal: DealDetail; stage: Stage }) {
  const { organisation } = useSession();
  const step = deal.path.find(({ over }) => over.includes(stage.id));
  const owed = deal.owed.filter((item) => item.stage === stage.id);
  return (
    <div>
      <h3>
        {stage.name} <span className="text-flagged">{step ? 'skipped' : 'not entered'}</span>
      </h3>
      {step &&
        `Passed over ${shortDay(dayOf(step.at, organisation), organisation.today)}${step.by ? ` by ${step.by}` : ''}.`}
      {owed.map((item) => (
        <a key={item.id} className="owe" href={`#owed-${item.id}`}>
          Owed: <Pieces says={item.says} />
        </a>
      ))}
      <RungSteps deal={deal} stage={stage} />
      {deal.stepsAtHand
        .filter((run) => run.stage === stage.id)
        .map((run) => (
          <a key={run.seq} className="owe" href={`#${stepCardId(run)}`}>
            Step owed: <b>{run.name}</b>
          </a>
        ))}
    </div>
  );
}

/** From when to when each stage ahead would last, if each took its target. */
function usePaceAhead(deal: DealDetail): Map<string, readonly [string, string]> {
  const { organisation } = useSession();
  const { stages } = deal.document;
  const here = placeOf(deal.document, deal.stage);
  const present = deal.visits.at(-1);
  const due = present?.moveOnDay ?? null;
  let day = due === null || due < organisation.today ? organisation.today : due;
  const ahead = new Map<string, readonly [string, string]>();
  for (const stage of stages.slice(here + 1)) {
    const end = stage.target ? moveOnDay(day, stage.target, deal.calendar) : addDays(day, 0);
    ahead.set(stage.id, [day, end]);
    day = end;
  }
  return ahead;
}

/** Whether the close date fits the targets. */
function Pace({ deal, end }: { deal: DealDetail; end: string | undefined }) {
  const { organisation } = useSession();
  const close = deal.values.close_date;
  if (deal.status.state !== 'open' || end === undefined || typeof close !== 'string') return null;
  const early = daysBetween(close, end);
  return (
    <p className="pace">
      <b>{early > 0 ? `Close date is ${countOf(early, 'day')} too early.` : 'The close date fits the targets.'}</b> At
      target pace it is done on {shortDay(end, organisation.today)}
      {early > 0 ? `, not ${shortDay(close, organisation.today)}` : ''}.
      {isMoney(deal.values.value) ? '' : ' It has no value yet.'}
    </p>
  );
}
