import type { Requirement } from '@ladder/core';
import { activitiesEditor } from './activities.tsx';
import { criterionEditor } from './criterion.tsx';
import { documentEditor } from './document.tsx';
import type { RequirementEditor } from './editor.ts';
import { fieldEditor } from './field.tsx';
import { stepEditor } from './step.tsx';
import { stepsEditor } from './steps.tsx';

const EDITOR_OF: { readonly [Kind in Requirement['kind']]: RequirementEditor<Extract<Requirement, { kind: Kind }>> } = {
  criterion: criterionEditor,
  field: fieldEditor,
  steps: stepsEditor,
  step: stepEditor,
  document: documentEditor,
  activities: activitiesEditor,
};

/** The editors of all kinds of requirements that are written in a list, in the order in which they are offered. */
export const REQUIREMENT_EDITORS = Object.values(EDITOR_OF) as unknown as readonly RequirementEditor[];

/** The editor of a kind. */
export const editorOf = (kind: Requirement['kind']): RequirementEditor =>
  EDITOR_OF[kind] as unknown as RequirementEditor;
