import type { NameOf } from '../criteria/phrase.ts';
import { resultKey } from '../steps/step.ts';
import type { ProcessDocument } from './document.ts';

const named = new WeakMap<ProcessDocument, ReadonlyMap<string, string>>();

/** Names of a version's stages, steps and results, beside those that are known from elsewhere. */
export function namesWith(document: ProcessDocument, nameOf: NameOf): NameOf {
  const names = named.get(document) ?? namesOf(document);
  named.set(document, names);
  return (id) => names.get(id) ?? nameOf(id);
}

const namesOf = ({ stages }: ProcessDocument): ReadonlyMap<string, string> =>
  new Map(
    stages.flatMap(({ id, name, steps }) => [
      [id as string, name] as const,
      ...steps.flatMap((step) => [
        [step.id, step.name] as const,
        ...step.results.map((result) => [resultKey(step.id, result.id), result.name] as const),
      ]),
    ]),
  );
