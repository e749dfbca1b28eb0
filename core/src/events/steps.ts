import { dateText } from '../criteria/phrase.ts';
import type { Day } from '../time/day.ts';
import { type EventKind, plain, strong } from './event.ts';

interface OfRun {
  /** Which of the deal's runs of steps it is about. */
  readonly run: number;
  readonly step: string;
  /** How the step was called. */
  readonly name: string;
}

const OF_RUN = { run: { is: 'count' }, step: { is: 'key' }, name: { is: 'name' } } as const;

interface Ended extends OfRun {
  readonly result: string;
  readonly resultName: string;
}

const ENDED = { ...OF_RUN, result: { is: 'key' }, resultName: { is: 'name' } } as const;

const stepEnded: EventKind<'step_ended', Ended> = {
  kind: 'step_ended',
  shape: ENDED,
  says: ({ name, resultName }) => [strong(name), plain(`: ${resultName}`)],
};

interface TakenBack extends Ended {
  /** Fields that its actions had set and that hold something else by now. */
  readonly kept: readonly string[];
  readonly notes: 'none' | 'stay';
}

const resultTakenBack: EventKind<'result_taken_back', TakenBack> = {
  kind: 'result_taken_back',
  shape: { ...ENDED, kept: { is: 'list', of: { is: 'key' } }, notes: { is: 'one_of', values: ['none', 'stay'] } },
  says: ({ name, resultName, kept, notes }, { catalogue }) => [
    strong('Taken back'),
    plain(`: ${name}, ${resultName}`),
    ...(kept.length > 0
      ? [
          plain(
            `; ${kept.map((id) => catalogue.get(id)?.name ?? id).join(', ')} ${kept.length === 1 ? 'stays' : 'stay'} as changed since`,
          ),
        ]
      : []),
    ...(notes === 'stay' ? [plain('; its note stays')] : []),
  ],
};

/** A note that a result's action wrote; its words are the entry's free text. It is nobody's activity (S5). */
const stepNoted: EventKind<'step_noted', { readonly run: number; readonly name: string }> = {
  kind: 'step_noted',
  shape: { run: OF_RUN.run, name: OF_RUN.name },
  says: ({ name }) => [strong(name), plain(' noted')],
};

/** A step that should have gone on by itself and could not: a person has to end it. */
const stepStuck: EventKind<'step_stuck', OfRun & { readonly why: string }> = {
  kind: 'step_stuck',
  shape: { ...OF_RUN, why: { is: 'words', most: 500 } },
  says: ({ name, why }) => [strong(name), plain(` could not go on by itself: ${why}`)],
};

const stepPutOff: EventKind<'step_put_off', OfRun & { readonly before: Day | null; readonly after: Day }> = {
  kind: 'step_put_off',
  shape: { ...OF_RUN, before: { is: 'or_none', of: { is: 'day' } }, after: { is: 'day' } },
  says: ({ name, before, after }) => [
    strong(name),
    plain(before === null ? ` is due ${dateText(after)}` : ` put off from ${dateText(before)} to ${dateText(after)}`),
  ],
};

const stepPassed: EventKind<'step_passed', OfRun & { readonly to: string }> = {
  kind: 'step_passed',
  shape: { ...OF_RUN, to: { is: 'id' } },
  says: ({ name, to }, { nameOf }) => [strong(name), plain(' passed to '), strong(nameOf(to) ?? 'someone unknown')],
};

export const STEP_EVENTS = [stepEnded, resultTakenBack, stepNoted, stepStuck, stepPutOff, stepPassed] as const;
