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

const resultTakenBack: EventKind<'result_taken_back', Ended> = {
  kind: 'result_taken_back',
  shape: ENDED,
  says: ({ name, resultName }) => [strong('Taken back'), plain(`: ${name}, ${resultName}`)],
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

export const STEP_EVENTS = [stepEnded, resultTakenBack, stepPutOff, stepPassed] as const;
