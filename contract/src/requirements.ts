import { BINDINGS, LEVELS, REQUIREMENT_KINDS, type Requirement, type RequirementKind } from '@ladder/core';
import { criterion } from './criteria.ts';
import { type Known, key, object, oneOf, optional, tagged, text } from './schema.ts';
import { schemasOf } from './shapes.ts';

const kindsWritten = (written: RequirementKind['written']): readonly RequirementKind[] =>
  REQUIREMENT_KINDS.filter((kind) => kind.written === written) as readonly RequirementKind[];

const asked = {
  id: key(),
  level: oneOf(LEVELS),
  binds: oneOf(BINDINGS),
  appliesWhen: optional(criterion),
  message: optional(text({ min: 0 })),
};

/** One entry of a list of requirements, of any kind that is written there. */
export const requirement = tagged(
  'kind',
  ...kindsWritten('requirement').map((kind) =>
    object({ ...asked, kind: oneOf([kind.kind]), ...schemasOf(kind.shape) }),
  ),
) as Known<Requirement>;

/** One entry of a stage's checklist. */
export const checklistItem = object({
  id: key(),
  level: oneOf(LEVELS),
  ...Object.assign({}, ...kindsWritten('checklist').map(({ shape }) => schemasOf(shape))),
});

/** The names of all kinds. */
export const requirementKind = oneOf(REQUIREMENT_KINDS.map(({ kind }) => kind));
