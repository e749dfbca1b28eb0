import type { Problem } from '../criteria/check.ts';
import { checkDocument } from '../processes/check.ts';
import { placeOf } from '../processes/document.ts';
import { Asker, type OpenQuestion } from './asker.ts';
import { contradictions } from './contradictions.ts';
import { fieldRemarks } from './fields.ts';
import { implications } from './implications.ts';
import { practiceRemarks } from './practice.ts';
import { type Design, REMARK_WEIGHTS, type Remark } from './remark.ts';
import { stepRemarks } from './steps.ts';
import { pointerTo, writtenRemarks } from './written.ts';

/** All that the design check has to say, the weightiest first and each weight in the order of the ladder; and what it could not decide. */
export interface DesignCheck {
  readonly remarks: readonly Remark[];
  readonly open: readonly OpenQuestion[];
}

/**
 * Looks a design through: what cannot work, what is most likely not meant, and what common practice does otherwise. What
 * cannot be met, and what follows from what, is decided exactly or left open, never guessed (`satisfy`).
 */
export function checkDesign(design: Design): DesignCheck {
  const ask = new Asker(design);
  const unmeetable = contradictions(design, ask);
  const remarks = [
    ...writtenRemarks(design),
    ...unmeetable.remarks,
    ...implications(design, ask, unmeetable.items),
    ...stepRemarks(design),
    ...fieldRemarks(design),
    ...practiceRemarks(design),
  ];
  return {
    remarks: [...new Map(inOrder(remarks, design).map((remark) => [remark.key, remark])).values()],
    open: ask.open,
  };
}

/** What keeps the design from being published, each with a pointer to its place. */
export function publishProblems(design: Design): readonly Problem[] {
  const { document, catalogue, nameOf } = design;
  const beyondWriting = [
    ...stepRemarks(design),
    ...fieldRemarks(design),
    ...contradictions(design, new Asker(design)).remarks,
  ];
  return [
    ...checkDocument(document, catalogue, nameOf),
    ...inOrder(beyondWriting.filter(isProblem), design).map(({ place, says }) => ({
      pointer: pointerTo(place, document),
      detail: says,
    })),
  ];
}

const isProblem = ({ weight }: Remark): boolean => weight === 'problem';

function inOrder(remarks: readonly Remark[], { document }: Design): readonly Remark[] {
  const rank = ({ weight, place }: Remark): number => {
    const rung = place.stage ? placeOf(document, place.stage) : document.stages.length;
    return REMARK_WEIGHTS.indexOf(weight) * (document.stages.length + 1) + rung;
  };
  return [...remarks].sort((a, b) => rank(a) - rank(b));
}
