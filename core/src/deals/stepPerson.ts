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
  if (run.assignee !== null) return run.assignee;
  switch (who.by) {
    case 'owner':
      return textValue(deal, 'owner');
    case 'person':
      return who.person;
    case 'role':
      return null;
    case 'bringer': {
      const visit = deal.visits.find(({ seq }) => seq === run.visitSeq);
      const step = deal.path.find(({ seq }) => seq === visit?.moveSeq);
      // What nobody brought, but the process by itself, falls to the owner.
      return (step && personBehind(step.by, importerOf)) ?? textValue(deal, 'owner');
    }
  }
}

function personBehind(by: Actor, importerOf: (importId: string) => string | null): string | null {
  const { kind, id } = readActor(by);
  if (kind === 'person') return id;
  return kind === 'import' ? importerOf(id) : null;
}
