import type { StageId } from '../ids.ts';
import { outcomeOf, type ProcessDocument, stageOf } from '../processes/document.ts';
import type { GateItem } from '../requirements/kinds.ts';
import { itemsToClose, itemsToEnter, itemsToLeave } from './item.ts';
import type { MoveTarget, Route } from './route.ts';

/** An item as one gate asks it: what a skip passes over is marked, and asked at the level of the process's rule. */
export type AskedItem = GateItem & { readonly passedOver: boolean };

/** Everything that a move along the route must meet, in the order in which it is shown (S8, S9). */
export function assembleGate(
  document: ProcessDocument,
  from: StageId,
  target: MoveTarget,
  route: Route,
): readonly AskedItem[] {
  if (route.kind === 'return') return document.returns === 'hold' ? [RETURN_DECISION] : [];
  if (route.kind === 'lost') return itemsAtTarget(document, target).map(asked);
  const present = stageOf(document, from);
  return [
    ...(present ? itemsToLeave(present) : []).map(asked),
    ...itemsPassedOver(document, route.over),
    ...itemsAtTarget(document, target).map(asked),
  ];
}

const asked = (item: GateItem): AskedItem => ({ passedOver: false, ...item });

const RETURN_DECISION: AskedItem = {
  id: 'rule:returns',
  stage: null,
  at: 'rule',
  level: 'hold',
  binds: 'at_move',
  kind: 'decision',
  rule: 'returns',
  passedOver: false,
};

function itemsAtTarget(document: ProcessDocument, target: MoveTarget): readonly GateItem[] {
  if (target.to === 'outcome') {
    const outcome = outcomeOf(document, target.outcome);
    return outcome ? itemsToClose(outcome) : [];
  }
  const stage = stageOf(document, target.stage);
  return stage ? itemsToEnter(stage) : [];
}

function itemsPassedOver(document: ProcessDocument, over: readonly StageId[]): readonly AskedItem[] {
  if (document.skips === 'allow') return [];
  return over.flatMap((id) => {
    const stage = stageOf(document, id);
    if (!stage) return [];
    return [...itemsToEnter(stage), ...itemsToLeave(stage)].map((item) => ({
      passedOver: true,
      ...item,
      level: document.skips === 'flag' ? ('flag' as const) : item.level,
    }));
  });
}
