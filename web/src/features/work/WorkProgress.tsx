import { Button, ProgressBar } from 'react-bootstrap';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { countOf } from '../../parts/format.ts';
import { useWork } from './useWork.ts';
import { useCancelWorkMutation, type Work } from './workApi.ts';

interface Words {
  readonly title: string;
  readonly unit: string;
  /** What is done once it cannot be stopped any more. */
  readonly after?: string;
  /** What becomes of it where it is stopped; nothing of most is kept. */
  readonly stopping?: string;
}

const WORDS: Readonly<Record<Work['kind'], Words>> = {
  import: { title: 'Importing', unit: 'row' },
  take_back: { title: 'Taking back', unit: 'deal' },
  publish: {
    title: 'Judging deals by the new version',
    unit: 'deal',
    after: 'The new version is live. What it changes is written',
  },
  house_rules: { title: 'Changing house rules', unit: 'deal' },
  rate: { title: 'Setting a rate', unit: 'deal' },
  choice: { title: 'Looking for the choice', unit: 'record', stopping: 'Stopping; what was changed stays so.' },
  formula: { title: 'Working out', unit: 'deal' },
  calendar: {
    title: 'Changing the calendar',
    unit: 'deal',
    after: 'The calendar counts. Days ahead are counted anew',
  },
  leaving: { title: 'Handing over', unit: 'deal', stopping: 'Stopping; what was handed over stays so.' },
};

/** How far a long work is, with a way to stop it; nothing where none runs. */
export function WorkProgress({ work }: { work: Work | null }) {
  const [cancel, { error, isLoading }] = useCancelWorkMutation();
  if (work?.state !== 'running') return null;
  const { title, unit, after, stopping = 'Stopping; nothing of it is kept.' } = WORDS[work.kind];
  const { done, total } = work;
  const isStopping = isLoading || work.cancel === 'asked';
  return (
    <div className="work-progress">
      <p role="status">
        {isStopping
          ? stopping
          : `${(work.cancel === 'over' && after) || title}: ${done.toLocaleString('en-GB')} of ${countOf(total ?? 0, unit)}.`}{' '}
        <span className="muted">You can leave this page; it goes on.</span>
      </p>
      <div className="d-flex align-items-center gap-3">
        <ProgressBar
          className="flex-grow-1"
          now={total ? (done / total) * 100 : 0}
          aria-label={`${title}, ${unit}s done`}
        />
        {work.cancel !== 'over' && (
          <Button variant="outline-secondary" size="sm" disabled={isStopping} onClick={() => cancel(work.id)}>
            Stop
          </Button>
        )}
      </div>
      <ErrorNotice error={error} />
    </div>
  );
}

/** The same for whatever is done with a subject, also where it was begun elsewhere. */
export function WorkUnderWay({ subject, isExpected = false }: { subject: string; isExpected?: boolean }) {
  return <WorkProgress work={useWork({ subject, isExpected })} />;
}
