import type { RequirementKind } from './kind.ts';
import { REQUIREMENT_KINDS } from './kinds.ts';

const BY_NAME: ReadonlyMap<string, RequirementKind> = new Map(
  REQUIREMENT_KINDS.map((kind): [string, RequirementKind] => [kind.kind, kind]),
);

/** The kind of that name. Throws where there is none: documents are checked before they are kept. */
export function kindNamed(name: string): RequirementKind {
  const kind = BY_NAME.get(name);
  if (!kind) throw new RangeError(`There is no requirement of kind ${name}`);
  return kind;
}
