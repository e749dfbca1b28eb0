import type { GuidedStep } from '../steps/step.ts';
import { type Actor, readActor } from './actor.ts';
import type { PathCarried } from './parts/path.ts';
import type { StepRun } from './parts/runs.ts';
import { textValue, type ValuesCarried } from './parts/values.ts';
import type { VisitsCarried } from './parts/visits.ts';

/**
 * Whom a step at hand falls to: a person; null where it is nobody's until someone of its role takes it (S52). `importerOf` gives
 * who ran an import, by its id.
 */
export function stepPerson(
  deal: Pick<ValuesCarried, 'values'> & PathCarried & VisitsCarried,
  run: StepRun,
  { who }: Pick<GuidedStep, 'who'>,
  importerOf: (importId: string) => string | null,
): string | null {
  const visit = deal.visits.find(({ seq }) => seq === run.visitSeq);
  const brought = deal.path.find(({ seq }) => seq === visit?.moveSeq);
  return stepHolder(
    { who },
    {
      assignee: run.assignee,
      owner: textValue(deal, 'owner'),
      bringer: brought ? personBehind(brought.by, importerOf) : null,
    },
  );
}

interface AroundStep {
  /** Whom it was passed to, or who took it. */
  readonly assignee: string | null;
  readonly owner: string | null;
  /** The person who brought the deal to where the step is done; null where the process did by itself. */
  readonly bringer: string | null;
}

/** The same of people who are known already. */
export function stepHolder({ who }: Pick<GuidedStep, 'who'>, { assignee, owner, bringer }: AroundStep): string | null {
  if (assignee !== null) return assignee;
  switch (who.by) {
    case 'owner':
      return owner;
    case 'person':
      return who.person;
    case 'role':
      return null;
    case 'bringer':
      // What nobody brought falls to the owner.
      return bringer ?? owner;
  }
}

function personBehind(by: Actor, importerOf: (importId: string) => string | null): string | null {
  const { kind, id } = readActor(by);
  if (kind === 'person') return id;
  return kind === 'import' ? importerOf(id) : null;
}
