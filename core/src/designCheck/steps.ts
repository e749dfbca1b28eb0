import type { Stage } from '../processes/document.ts';
import type { GateItem } from '../requirements/kinds.ts';
import { stepFlow } from '../steps/flow.ts';
import type { GuidedStep } from '../steps/step.ts';
import { stepsRead } from './fields.ts';
import { type DesignGate, gatesOf, placeOfItem } from './gates.ts';
import { type Design, inStage, type Remark } from './remark.ts';
import { quoted } from './words.ts';

/** What is wrong with guided steps: loops without a way out, steps nobody comes to, what asks for steps that are still to come, people who have left. */
export function stepRemarks(design: Design): readonly Remark[] {
  const { stages } = design.document;
  return [
    ...stages.flatMap(flowRemarks),
    ...gatesOf(design.document).flatMap((gate) => gate.items.flatMap((item) => reachRemarks(item, gate, design))),
    ...stages.flatMap((stage) => stage.steps.flatMap((step) => peopleRemarks(stage, step, design))),
  ];
}

function flowRemarks({ id: stage, steps }: Stage): readonly Remark[] {
  const { unreachable, endless } = stepFlow(steps);
  const nameOf = (id: string): string => `“${steps.find((step) => step.id === id)?.name ?? ''}”`;
  return [
    ...endless.map(
      (id): Remark => ({
        key: `endless ${id}`,
        weight: 'problem',
        place: inStage(stage, id),
        says: `From ${nameOf(id)} the steps go round without a way out: no result, however many follow, ends them.`,
        witness: null,
        remedy: null,
      }),
    ),
    ...unreachable.map(
      (id): Remark => ({
        key: `unreachable ${id}`,
        weight: 'warning',
        place: inStage(stage, id),
        says: `Nobody comes to ${nameOf(id)}: no result leads there.`,
        witness: null,
        remedy: { name: 'Take the step out', edits: [{ kind: 'remove_step', stage, step: id }] },
      }),
    ),
  ];
}

/** Steps that a gate asks for before a deal can have come to them, or that nobody comes to. */
function reachRemarks(item: GateItem, gate: DesignGate, design: Design): readonly Remark[] {
  const { stages } = design.document;
  const place = placeOfItem(item, design.document);
  const remark = (what: string, why: string): Remark => ({
    key: `out of reach ${item.id} ${what}`,
    weight: 'warning',
    place,
    says: `${quoted(item, design)} cannot be reached: ${why}.`,
    witness: null,
    remedy: null,
  });
  const isToCome = (stagePlace: number): boolean => stagePlace > gate.from;
  if (item.kind === 'steps') {
    const at = stages.findIndex(({ id }) => id === item.of);
    const stage = stages[at];
    if (!stage) return [];
    if (stage.steps.length === 0) return [remark(item.of, `${stage.name} has no steps, so they are never finished`)];
    return isToCome(at) ? [remark(item.of, `a deal comes to ${stage.name} only later`)] : [];
  }
  return stepsRead(item).flatMap((id) => {
    const at = stages.findIndex(({ steps }) => steps.some((step) => step.id === id));
    const stage = stages[at];
    if (!stage) return [];
    const name = stage.steps.find((step) => step.id === id)?.name ?? '';
    if (stepFlow(stage.steps).unreachable.includes(id)) return [remark(id, `nobody comes to “${name}”`)];
    return isToCome(at) ? [remark(id, `“${name}” is a step of ${stage.name}, to which a deal comes only later`)] : [];
  });
}

/** Whoever does a step has left, or nobody is of its role. */
function peopleRemarks({ id: stage }: Stage, step: GuidedStep, { people }: Design): readonly Remark[] {
  const { who } = step;
  if (!people) return [];
  const isHeld =
    who.by === 'person'
      ? who.person === '' || people.some(({ id }) => id === who.person)
      : who.by !== 'role' || people.some(({ role }) => role === who.role);
  if (isHeld) return [];
  return [
    {
      key: `nobody does ${step.id}`,
      weight: 'warning',
      place: inStage(stage, step.id),
      says:
        who.by === 'person'
          ? `“${step.name}” falls to somebody who has left.`
          : `“${step.name}” falls to a role that nobody has.`,
      witness: null,
      remedy: {
        name: 'Give it to the deal’s owner',
        edits: [{ kind: 'put_step', stage, step: { ...step, who: { by: 'owner' } } }],
      },
    },
  ];
}
