import type { NameOf } from '../criteria/phrase.ts';
import type { StepDue, StepWho } from '../steps/step.ts';

/** Who does a step, in a few words. */
export function whoWords(who: StepWho, nameOf: NameOf): string {
  switch (who.by) {
    case 'owner':
      return 'the owner';
    case 'bringer':
      return 'whoever brought it here';
    case 'person':
      return nameOf(who.person) ?? 'someone who left';
    case 'role':
      return `any ${who.role} of the team`;
  }
}

/** When a step is due, in a few words. */
export function dueWords(due: StepDue | null): string {
  if (due === null) return 'no due day';
  const when = due.days === 0 ? 'the same day' : dayCountWords(due);
  return `due ${when} after ${due.after === 'arrival' ? 'arrival' : 'the step before'}`;
}

/** So many days, working days told as such. */
export const dayCountWords = ({
  days,
  counting,
}: {
  readonly days: number;
  readonly counting: 'calendar' | 'working';
}): string => `${days} ${counting === 'working' ? 'working ' : ''}${days === 1 ? 'day' : 'days'}`;
