import { canonicalText } from '../canonicalText.ts';
import type { Deal } from '../deals/deal.ts';
import type { ActionDone, StepRun } from '../deals/parts/runs.ts';
import { tickedItems } from '../deals/parts/ticks.ts';
import type { DealRecord } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import type { FactValue } from '../facts/value.ts';
import { taskSetOf } from '../processes/document.ts';
import { failed, ok, type Result } from '../result.ts';
import type { GuidedStep, ResultAction, SetTo, StepResult } from '../steps/step.ts';
import { localDay } from '../time/day.ts';
import { journal, type Stepped } from './change.ts';
import { editStep } from './edit.ts';
import { messageToPrepare } from './messages.ts';
import { withTaskSet } from './taskSets.ts';
import { withdrawTasks } from './tasks.ts';
import { tickStep } from './tick.ts';

/** A deal after actions, and what they did. */
export interface Acted extends Stepped {
  readonly did: readonly ActionDone[];
}

interface OfRun {
  readonly run: StepRun;
  readonly step: GuidedStep;
  readonly result: StepResult;
}

/** Carries a result's actions out, in order. Errors: the first that cannot be, by the name of what it is about. */
export function carryOut(
  filled: Stepped,
  setting: Setting,
  { run, step, result }: OfRun,
  moment: Moment,
): Result<Acted, { readonly code: 'action'; readonly name: string }> {
  let acted: Acted = { ...filled, did: [] };
  for (const action of result.actions) {
    const done = ACTIONS[action.do](acted.deal, setting, action as never, { run: run.seq, name: step.name }, moment);
    if (!done) return failed({ code: 'action', name: nameOf(action, setting) });
    acted = {
      deal: done.deal,
      records: [...acted.records, ...done.records],
      did: done.did ? [...acted.did, done.did] : acted.did,
    };
  }
  return ok(acted);
}

interface Done {
  readonly deal: Deal;
  readonly records: readonly DealRecord[];
  /** Null where it was so already. */
  readonly did: ActionDone | null;
}
type Of<Do extends ResultAction['do']> = Extract<ResultAction, { readonly do: Do }>;
type StepNamed = { readonly run: number; readonly name: string };

/** How each action is carried out; null where it cannot be. */
const ACTIONS: {
  readonly [Do in ResultAction['do']]: (
    deal: Deal,
    setting: Setting,
    action: Of<Do>,
    step: StepNamed,
    moment: Moment,
  ) => Done | null;
} = {
  set_field(deal, setting, { field, set }, step, moment) {
    const before = deal.values[field] ?? null;
    const edited = editStep(
      setting,
      [{ field, saw: before, value: valueSet(set, setting, moment) }],
      step,
    )(deal, moment);
    if (!edited.ok) return null;
    const after = edited.value.deal.values[field] ?? null;
    const isChanged = edited.value.deal !== deal;
    return { ...edited.value, did: isChanged ? { did: 'set_field', field, before, after } : null };
  },
  tick(deal, setting, { item }, _step, moment) {
    const ticked = tickStep(setting, item, 'ticked')(deal, moment);
    if (!ticked.ok) return null;
    const wasTicked = tickedItems(deal, setting.document).has(item);
    return { ...ticked.value, did: wasTicked ? null : { did: 'tick', item } };
  },
  note: (deal, _setting, { text }, step, moment) => ({
    deal,
    records: [journal(deal, moment, { kind: 'step_noted', run: step.run, name: step.name }, text)],
    did: { did: 'note' },
  }),
  message: (deal, _setting, { template, how }, _step, moment) => ({
    deal,
    records: [messageToPrepare(template, how, moment)],
    did: null,
  }),
  add_tasks(deal, setting, { set: id }, _step, moment) {
    const set = taskSetOf(setting.document, id);
    if (!set) return null;
    const used = withTaskSet(deal, set, null, setting, moment);
    const tasks = used.deal.tasks.slice(deal.tasks.length).map(({ seq }) => seq);
    return { ...used, did: tasks.length > 0 ? { did: 'add_tasks', tasks } : null };
  },
};

function valueSet(set: SetTo, { zone }: Setting, moment: Moment): FactValue {
  switch (set.to) {
    case 'value':
      return set.value;
    case 'today':
      return localDay(moment.happenedAt, zone);
    case 'empty':
      return null;
  }
}

function nameOf(action: ResultAction, { catalogue, document }: Setting): string {
  switch (action.do) {
    case 'set_field':
      return catalogue.get(action.field)?.name ?? action.field;
    case 'tick':
      return (
        document.stages.flatMap(({ checklist }) => checklist).find(({ id }) => id === action.item)?.text ?? action.item
      );
    case 'note':
      return action.text;
    case 'add_tasks':
      return taskSetOf(document, action.set)?.name ?? action.set;
    case 'message':
      return 'a message';
  }
}

/** What became of what a result's actions had done, as it was taken back. */
export interface Undone extends Stepped {
  /** Fields that hold something else by now, and stay as they are. */
  readonly kept: readonly string[];
}

/** The deal with what a result's actions did undone, the last first: where it is still so (S54). Notes stay. */
export function undoActions(
  back: Stepped,
  setting: Setting,
  did: readonly ActionDone[],
  step: StepNamed,
  moment: Moment,
): Undone {
  const records = [...back.records];
  const kept: string[] = [];
  let { deal } = back;
  for (const action of did.toReversed()) {
    const undone = undo(deal, setting, action, step, moment);
    if (undone) {
      deal = undone.deal;
      records.push(...undone.records);
    } else if (action.did === 'set_field') kept.push(action.field);
  }
  return { deal, records, kept };
}

/** Null where it is not so any more, or stays in any case. */
function undo(deal: Deal, setting: Setting, action: ActionDone, step: StepNamed, moment: Moment): Stepped | null {
  switch (action.did) {
    case 'note':
      return null;
    case 'add_tasks':
      return withdrawTasks(deal, action.tasks, setting, moment);
    case 'tick': {
      const unticked = tickStep(setting, action.item, 'unticked')(deal, moment);
      return unticked.ok ? unticked.value : null;
    }
    case 'set_field': {
      const { field, before, after } = action;
      if (canonicalText(deal.values[field] ?? null) !== canonicalText(after)) return null;
      const edited = editStep(setting, [{ field, saw: after, value: before }], step)(deal, moment);
      return edited.ok ? edited.value : null;
    }
  }
}
