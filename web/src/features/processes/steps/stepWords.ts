import type { GuidedStep, NameOf, StepDue, StepWho } from '@ladder/core';

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

export function dueWords(due: StepDue | null): string {
  if (due === null) return 'no due day';
  const days = `${due.days} ${due.counting === 'working' ? 'working ' : ''}${due.days === 1 ? 'day' : 'days'}`;
  const when = due.days === 0 ? 'the same day' : days;
  return `due ${when} after ${due.after === 'arrival' ? 'arrival' : 'the step before'}`;
}

/** The name, or the first of `Name 2`, `Name 3` that no step has. */
export function freeStepName(steps: readonly Pick<GuidedStep, 'name'>[], name: string): string {
  const taken = new Set(steps.map((step) => step.name.trim().toLowerCase()));
  const base = name.trim();
  if (!taken.has(base.toLowerCase())) return base;
  for (let number = 2; ; number++) if (!taken.has(`${base} ${number}`.toLowerCase())) return `${base} ${number}`;
}
