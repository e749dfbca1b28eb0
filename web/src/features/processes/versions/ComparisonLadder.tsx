import type {
  ComparedOutcome,
  ComparedStage,
  Difference,
  DifferencePart,
  StageId,
  VersionComparison,
} from '@ladder/core';
import './versions.css';
import { Notch } from '../../../parts/Notch.tsx';

const PART_NAMES: Readonly<Record<DifferencePart, string>> = {
  name: 'Name',
  purpose: 'Purpose',
  chance: 'Chance',
  target: 'Target',
  idle: 'Idle',
  enter: 'To enter',
  leave: 'Before leaving',
  checklist: 'Checklist',
  steps: 'Guided steps',
  arrival: 'On arrival',
  outcome: 'To close',
  skips: 'Skipping a stage',
  returns: 'Going back',
  fields: 'Fields',
  task_sets: 'Sets of tasks',
};

interface LadderProps {
  readonly comparison: VersionComparison;
  /** The one stage that is looked at; null for all. */
  readonly stage: StageId | null;
  readonly shown: 'changed' | 'all';
}

/** Two versions on one ladder: what was added, taken out, moved and changed, each in its place. */
export function ComparisonLadder({ comparison, stage, shown }: LadderProps) {
  const { stages, outcomes, process } = comparison;
  const isChanged = ({ was, moved, differences }: ComparedStage) => was !== 'kept' || moved || differences.length > 0;
  const told = stages.filter((one) => (stage ? one.id === stage : shown === 'all' || isChanged(one)));
  return (
    <>
      {!stage && <Differences of={process} title="The process as a whole" />}
      <ol className="ladder compared-ladder">
        {told.map((one) => (
          <StageRung key={one.id} stage={one} count={stages.length} />
        ))}
      </ol>
      {!stage && outcomes.map((outcome) => <OutcomePart key={outcome.id} outcome={outcome} />)}
    </>
  );
}

function StageRung({ stage, count }: { stage: ComparedStage; count: number }) {
  const { name, was, moved, placeBefore, placeAfter, differences } = stage;
  return (
    <li className={`rung ${was}`}>
      <Notch place={(placeAfter ?? placeBefore ?? 1) - 1} count={count} label={placeAfter ? String(placeAfter) : '–'} />
      <div>
        <h3>
          {name} {was === 'added' && <span className="state clear">new</span>}
          {was === 'removed' && <span className="state held">removed</span>}
          {moved && (
            <span className="state flagged">
              moved from {placeBefore} to {placeAfter}
            </span>
          )}
        </h3>
        {differences.length === 0 && was === 'kept' && <p className="small muted">It says the same.</p>}
        <DifferenceList of={differences} />
      </div>
    </li>
  );
}

function OutcomePart({ outcome: { name, was, differences } }: { outcome: ComparedOutcome }) {
  const title = { added: `${name}, a new end`, removed: `${name}, an end that is removed`, kept: name }[was];
  return <Differences of={differences} title={title} isTold={was !== 'kept'} />;
}

function Differences({ of, title, isTold = false }: { of: readonly Difference[]; title: string; isTold?: boolean }) {
  if (of.length === 0 && !isTold) return null;
  return (
    <div className="compared-part">
      <h3>{title}</h3>
      <DifferenceList of={of} />
    </div>
  );
}

/** What was said and is said, one below the other. */
export function DifferenceList({ of }: { of: readonly Difference[] }) {
  return (
    <ul className="differences">
      {of.map(({ part, name, before, after }) => (
        <li key={`${part} ${name} ${before} ${after}`}>
          <span className="muted">
            {PART_NAMES[part]}
            {name && ` · ${name}`}
          </span>
          <span>
            {before !== null && <del>{before}</del>} {after !== null && <ins>{after}</ins>}
          </span>
        </li>
      ))}
    </ul>
  );
}
