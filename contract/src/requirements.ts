import { BINDINGS, LEVELS, REQUIREMENT_KINDS, type Requirement, type RequirementKind, type Shape } from '@ladder/core';
import { criterion } from './criteria.ts';
import { type Known, key, object, oneOf, optional, type Schema, tagged, text } from './schema.ts';

/** The schema of one part of a requirement's data. */
function schemaOf(shape: Shape): Known<unknown> {
  switch (shape.is) {
    case 'key':
      return key();
    case 'words':
      return text({ min: 0, max: shape.most });
    case 'one_of':
      return oneOf(shape.values);
    case 'criterion':
      return criterion;
  }
}

const dataOf = ({ shape }: RequirementKind): Readonly<Record<string, Schema<unknown>>> =>
  Object.fromEntries(Object.entries(shape).map(([name, part]) => [name, schemaOf(part)]));

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
  ...kindsWritten('requirement').map((kind) => object({ ...asked, kind: oneOf([kind.kind]), ...dataOf(kind) })),
) as Known<Requirement>;

/** One entry of a stage's checklist. */
export const checklistItem = object({
  id: key(),
  level: oneOf(LEVELS),
  ...Object.assign({}, ...kindsWritten('checklist').map(dataOf)),
});

/** The names of all kinds. */
export const requirementKind = oneOf(REQUIREMENT_KINDS.map(({ kind }) => kind));
