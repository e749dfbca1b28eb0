import { checkDocument } from '../processes/check.ts';
import { type Design, type Remark, type RemarkPlace, WHOLE_PROCESS } from './remark.ts';

/** What is wrong with the document as it is written, each at its place. */
export const writtenRemarks = ({ document, catalogue, nameOf }: Design): readonly Remark[] =>
  checkDocument(document, catalogue, nameOf).map(
    ({ pointer, detail }): Remark => ({
      key: `written ${pointer} ${detail}`,
      weight: 'problem',
      place: placeOfPointer(pointer, document),
      says: detail,
      witness: null,
      remedy: null,
    }),
  );

/** Parts of the document that are not rightly written: nothing can be told of what they ask. */
export const brokenParts = (design: Design): ReadonlySet<string> =>
  new Set(writtenRemarks(design).flatMap(({ place }) => place.part ?? []));

/** A JSON pointer to the place in the document. */
export function pointerTo(
  { stage: stageId, outcome: outcomeId, part }: RemarkPlace,
  document: Design['document'],
): string {
  const { stages, outcomes } = document;
  const stage = stages.find(({ id }) => id === stageId);
  const outcome = outcomes.find(({ id }) => id === outcomeId);
  const within = (pointer: string, lists: Readonly<Record<string, readonly { readonly id: string }[]>>): string => {
    for (const [name, list] of Object.entries(lists)) {
      const place = list.findIndex(({ id }) => id === part);
      if (place >= 0) return `${pointer}/${name}/${place}`;
    }
    return pointer;
  };
  if (stage) {
    const { enter, leave, checklist, steps } = stage;
    return within(`/stages/${stages.indexOf(stage)}`, { enter, leave, checklist, steps });
  }
  return outcome ? within(`/outcomes/${outcomes.indexOf(outcome)}`, { requirements: outcome.requirements }) : '';
}

/** The stage or outcome, and the part of it, that a pointer leads to. */
function placeOfPointer(pointer: string, { stages, outcomes }: Design['document']): RemarkPlace {
  const [, list, place, parts, part] = pointer.split('/');
  const stage = list === 'stages' ? stages[Number(place)] : undefined;
  const outcome = list === 'outcomes' ? outcomes[Number(place)] : undefined;
  if (stage) {
    const of = parts === 'enter' || parts === 'leave' || parts === 'checklist' || parts === 'steps' ? stage[parts] : [];
    return { stage: stage.id, outcome: null, part: of[Number(part)]?.id ?? null };
  }
  if (!outcome) return WHOLE_PROCESS;
  return { stage: null, outcome: outcome.id, part: outcome.requirements[Number(part)]?.id ?? null };
}
