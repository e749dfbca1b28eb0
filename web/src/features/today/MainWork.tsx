import { itemTitle, stageOf } from '@ladder/core';
import { useSession } from '../../client/session.ts';
import { DecideWaiver } from '../deals/DecideWaiver.tsx';
import { type DealDetail, useTakeResultBackMutation } from '../deals/dealsApi.ts';
import { StepAtHandCard } from '../deals/StepAtHandCard.tsx';
import type { Task } from '../deals/tasksApi.ts';
import type { ResultTaken } from '../deals/useResult.ts';
import { whyOf } from './dayWords.ts';
import { FollowUpWork } from './FollowUpWork.tsx';
import { NextActionWork } from './NextActionWork.tsx';
import { TaskWork } from './TaskWork.tsx';
import type { DayEntry, DayItem } from './todayApi.ts';
import type { Undo } from './useUndo.ts';

export interface WorkProps {
  readonly deal: DealDetail;
  readonly undo: Undo;
  /** Goes on to what comes next. */
  readonly onDone: () => void;
}

/** A task of a deal that nobody has ended. */
export const openTask = (deal: DealDetail, task: number): Task | undefined =>
  deal.tasks.find(({ seq, end }) => seq === task && end === null);

/** The first thing to do about a deal, done where it stands. */
export function MainWork({ entry, ...work }: WorkProps & { readonly entry: DayEntry }) {
  const { item } = entry;
  switch (item.kind) {
    case 'step':
      return <StepWork {...work} run={item.run} />;
    case 'task': {
      const task = openTask(work.deal, item.task);
      return task ? <TaskWork {...work} task={task} /> : null;
    }
    case 'next_action':
      return <NextActionWork {...work} item={item} />;
    case 'waiver':
      return (
        <div className="day-main">
          <header>
            <h3>Decide on a waiver</h3>
          </header>
          <DecideWaiver deal={work.deal.id} request={item.request} onDone={work.onDone} />
        </div>
      );
    case 'follow_up':
      return <FollowUpWork {...work} day={item.dueDay} />;
    case 'held':
    case 'past_target':
    case 'idle':
      return <Remark item={item} deal={work.deal} />;
  }
}

/** What is so of the deal; what to do about it stands below. */
function Remark({ item, deal }: { item: DayItem; deal: DealDetail }) {
  const { organisation } = useSession();
  const { says, note } = whyOf(item, organisation.today);
  const hint = {
    held: 'Each thing that holds it has its remedy below.',
    past_target: `What ${stageOf(deal.document, deal.stage)?.name ?? 'its stage'} still asks stands below.`,
    idle: 'A call, a message or a note below ends it; or set what comes next.',
  } as const;
  return (
    <div className="day-main">
      <header>
        <h3>{itemTitle(item)}</h3>
      </header>
      <p className="mb-0">
        {says}, {note}. {item.kind in hint ? hint[item.kind as keyof typeof hint] : ''}
      </p>
    </div>
  );
}

function StepWork({ deal, undo, onDone, run: seq }: WorkProps & { readonly run: number }) {
  const [takeBack] = useTakeResultBackMutation();
  const run = deal.stepsAtHand.find((one) => one.seq === seq);
  if (!run) return null;
  const ended = ({ result }: ResultTaken) => {
    undo.offer(`${run.name}: ${result.name}`, () => takeBack({ deal: deal.id, run: seq, body: {} }));
    onDone();
  };
  return (
    <div className="day-main">
      <StepAtHandCard deal={deal} run={run} keys="numbered" onEnded={ended} />
    </div>
  );
}
