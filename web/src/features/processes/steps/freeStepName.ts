import type { GuidedStep } from '@ladder/core';

/** The name, or the first of `Name 2`, `Name 3` that no step has. */
export function freeStepName(steps: readonly Pick<GuidedStep, 'name'>[], name: string): string {
  const taken = new Set(steps.map((step) => step.name.trim().toLowerCase()));
  const base = name.trim();
  if (!taken.has(base.toLowerCase())) return base;
  for (let number = 2; ; number++) if (!taken.has(`${base} ${number}`.toLowerCase())) return `${base} ${number}`;
}
