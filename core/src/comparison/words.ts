import { type NameOf, phrase, valueText } from '../criteria/phrase.ts';
import type { Catalogue } from '../facts/field.ts';
import type { ProcessDocument, Stage } from '../processes/document.ts';
import { namesWith } from '../processes/documentNames.ts';
import { leadWords } from '../processes/leadWords.ts';
import { dayCountWords, dueWords, whoWords } from '../processes/stepWords.ts';
import { type ChecklistItem, TICKER_WORDS } from '../requirements/checklist.ts';
import { describeItem } from '../requirements/describeItem.ts';
import type { Requirement } from '../requirements/kinds.ts';
import type { GuidedStep, MessageAction, ResultAction, StepResult } from '../steps/step.ts';
import type { Arrival, TaskSet } from '../tasks/taskSet.ts';
import type { Target } from '../time/calendar.ts';
import type { Told } from './difference.ts';

/** A version with the fields that it was published with, and names of what is not in it: people, kinds of documents, templates. */
export interface ComparedVersion {
  readonly document: ProcessDocument;
  readonly catalogue: Catalogue;
  readonly nameOf: NameOf;
}

const text = (pieces: readonly { readonly text: string }[]): string => pieces.map((piece) => piece.text).join('');

/** How the parts of a version are told. */
export interface VersionWords {
  readonly requirement: Told<Requirement>;
  readonly item: Told<ChecklistItem>;
  readonly steps: (stage: Stage) => Told<GuidedStep>;
  readonly taskSet: Told<TaskSet>;
  readonly arrival: (arrival: readonly Arrival[]) => string;
  readonly fields: (ids: readonly string[]) => string;
}

export function versionWords({ document, catalogue, nameOf }: ComparedVersion): VersionWords {
  const names = namesWith(document, nameOf);
  const fieldName = (id: string): string => catalogue.get(id)?.name ?? 'a field that is gone';
  const setName = (id: string): string => document.taskSets.find((set) => set.id === id)?.name ?? 'a set that is gone';
  const itemText = (id: string): string =>
    document.stages.flatMap(({ checklist }) => checklist).find((item) => item.id === id)?.text ??
    'an item that is gone';
  const messageText = ({ template, how }: MessageAction): string =>
    `message ${names(template) ?? 'of a template that is gone'} ${how === 'at_once' ? 'at once' : 'to be confirmed'}`;
  const actionText = (action: ResultAction): string => {
    switch (action.do) {
      case 'set_field': {
        const field = catalogue.get(action.field);
        const to = action.set.to === 'value' ? valueText(action.set.value, field, names) : action.set.to;
        return `sets ${fieldName(action.field)} to ${to}`;
      }
      case 'tick':
        return `ticks ${itemText(action.item)}`;
      case 'note':
        return `notes “${action.text}”`;
      case 'add_tasks':
        return `tasks of ${setName(action.set)}`;
      case 'message':
        return messageText(action);
    }
  };
  const resultText = (stage: Stage, step: GuidedStep, result: StepResult): string =>
    [
      `${result.name}: ${leadWords(document, stage, step.id, result)}`,
      ...(result.captures === 'not_asked' ? ['asks for no fields'] : []),
      ...result.actions.map(actionText),
    ].join(', ');
  const stepParts = (stage: Stage, step: GuidedStep): Readonly<Record<string, string>> => {
    const byItself = step.results.find(({ id }) => id === step.byItself?.result);
    return {
      name: step.name,
      instruction: step.instruction === '' ? 'none' : step.instruction,
      who: whoWords(step.who, names),
      due: dueWords(step.due),
      fills: step.captures.map(({ field, need }) => `${fieldName(field)} (${need})`).join(', ') || 'nothing',
      results: step.results.map((result) => resultText(stage, step, result)).join('; '),
      'by itself': step.byItself
        ? `after ${dayCountWords({ days: step.byItself.days, counting: 'calendar' })} as ${byItself?.name ?? 'a result that is gone'}`
        : 'never',
      'after a return': step.afterReturn === 'again' ? 'again' : 'kept',
    };
  };
  return {
    requirement: {
      sentence: (requirement) =>
        [
          text(describeItem(requirement, catalogue, names)),
          `${requirement.level === 'hold' ? 'holds' : 'flags'}, ${requirement.binds === 'at_move' ? 'judged at the move' : 'must stay so'}`,
          ...(requirement.appliesWhen ? [`only where ${text(phrase(requirement.appliesWhen, catalogue, names))}`] : []),
          ...(requirement.message ? [`“${requirement.message}”`] : []),
        ].join('; '),
    },
    item: {
      name: (item) => item.text,
      sentence: ({ text: words, need, level, afterReturn, who, document: evidence, message }) =>
        [
          words,
          need === 'optional' ? 'optional' : `must, ${level === 'hold' ? 'holds' : 'flags'}`,
          ...(afterReturn === 'again' ? ['again after a return'] : []),
          ...(who ? [`ticked by ${TICKER_WORDS[who]}`] : []),
          ...(evidence ? [`with ${names(evidence) ?? 'a kind of document that is gone'} attached`] : []),
          ...(message ? [`“${message}”`] : []),
        ].join('; '),
    },
    steps: (stage) => ({
      name: ({ name }) => name,
      sentence: (step) => [step.name, whoWords(step.who, names), dueWords(step.due)].join('; '),
      parts: (step) => stepParts(stage, step),
    }),
    taskSet: {
      name: ({ name }) => name,
      sentence: ({ name, tasks, afterReturn }) =>
        [
          `${name}: ${tasks.map((task) => `${task.title} (${taskWho(task.who, names)}, ${dayCountWords(task.due)} after)`).join(', ')}`,
          ...(afterReturn === 'again' ? ['again after a return'] : []),
        ].join('; '),
    },
    arrival: (arrival) =>
      arrival.map((one) => (one.do === 'message' ? messageText(one) : `tasks of ${setName(one.set)}`)).join(', ') ||
      'nothing',
    fields: (ids) => ids.map(fieldName).join(', ') || 'none',
  };
}

const taskWho = (who: TaskSet['tasks'][number]['who'], nameOf: NameOf): string =>
  who.by === 'person' ? whoWords(who, nameOf) : who.by === 'owner' ? 'the owner' : 'nobody yet';

/** A stage's target, in words. */
export const targetWords = (target: Target | null): string => (target ? dayCountWords(target) : 'none');
