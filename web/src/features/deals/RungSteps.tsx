import type { Stage } from '@ladder/core';
import { useSession } from '../../client/session.ts';
import { shortDay } from '../../parts/format.ts';
import type { DealDetail, StepDone } from './dealsApi.ts';

/** So many stand on a rung; the journal has all of them. */
const MOST = 4;

/** What was done in a stage, on its rung: with which result, by whom, on which day. */
export function RungSteps({ deal, stage }: { deal: DealDetail; stage: Stage }) {
  const { organisation } = useSession();
  const done = deal.stepsDone.filter((run) => run.stage === stage.id && run.how !== 'carried');
  if (done.length === 0) return null;
  const older = done.length - MOST;
  return (
    <ul className="rung-steps">
      {older > 0 && <li>and {older} earlier</li>}
      {done.slice(-MOST).map((run) => (
        <li key={run.seq}>
          <b>{run.name}</b>
          {run.how === 'result' ? `: ${run.resultName}` : ` ${ENDED[run.how]}`}
          {` · ${[run.by?.split(' ')[0], shortDay(run.day, organisation.today)].filter((part) => part).join(', ')}`}
        </li>
      ))}
    </ul>
  );
}

const ENDED: Readonly<Record<StepDone['how'], string>> = {
  result: '',
  carried: '',
  left: 'left undone',
  withdrawn: 'withdrawn',
};
