import { valueText } from '../criteria/phrase.ts';
import type { FactValue } from '../facts/value.ts';
import { MOVE_KINDS, type MoveKind } from '../gate/route.ts';
import { GATE_ANSWERS, type GateAnswer } from '../gate/verdict.ts';
import type { StageId } from '../ids.ts';
import type { Shape } from '../shape.ts';
import { type EventKind, type EventWords, plain, strong } from './event.ts';
import { outcomeWords, requirementsOf, requirementsOpen, stageWords, targetWords } from './stageWords.ts';

interface Moved {
  readonly seq: number;
  readonly move: MoveKind;
  readonly from: StageId | null;
  readonly to: StageId | null;
  readonly outcome?: string;
  readonly over: readonly StageId[];
  readonly answer: GateAnswer;
  readonly open: readonly string[];
  readonly forced: 'no' | 'yes';
  /** Requirements that were passed on a waiver; left out where there were none. */
  readonly waived?: readonly string[];
  readonly reason: string | null;
  /** Of a deal that was won: what had been expected, and what came of it. */
  readonly final?: { readonly value: Came; readonly day: Came };
}

/** Before it was estimated, after it is final. */
interface Came {
  readonly before: FactValue;
  readonly after: FactValue;
}

const KEY_OR_NONE: Shape = { is: 'or_none', of: { is: 'key' } };
const MOVE: Shape = { is: 'one_of', values: MOVE_KINDS };
/** Left out where nothing closed, and in entries of the time when there were but two ends, told by the kind of the move. */
const OUTCOME: Shape = { is: 'maybe', of: { is: 'key' } };
const CAME: Shape = { is: 'parts', of: { before: { is: 'fact' }, after: { is: 'fact' } } };
const NAMES: Shape = { is: 'list', of: { is: 'name' } };

const moved: EventKind<'moved', Moved> = {
  kind: 'moved',
  shape: {
    seq: { is: 'count' },
    move: MOVE,
    from: KEY_OR_NONE,
    to: KEY_OR_NONE,
    outcome: OUTCOME,
    over: { is: 'list', of: { is: 'key' } },
    answer: { is: 'one_of', values: GATE_ANSWERS },
    open: NAMES,
    forced: { is: 'one_of', values: ['no', 'yes'] },
    waived: { is: 'maybe', of: NAMES },
    reason: KEY_OR_NONE,
    final: { is: 'maybe', of: { is: 'parts', of: { value: CAME, day: CAME } } },
  },
  says: (body, words) => [strong(moveName(body, words)), plain(`${finalWords(body, words)}${moveDetail(body, words)}`)],
};

type MoveParts = Pick<Moved, 'move' | 'from' | 'to' | 'outcome'>;

/** The final value and day, each beside its estimate where that was another. */
function finalWords({ final }: Moved, { catalogue, nameOf }: EventWords): string {
  if (!final) return '';
  const part = (id: string, word: string, { before, after }: Came): string => {
    const show = (value: FactValue) => valueText(value, catalogue.get(id), nameOf);
    if (after === null) return '';
    const isAsEstimated = before === null || show(before) === show(after);
    return ` ${word} ${show(after)}${isAsEstimated ? '' : ` (estimated ${show(before)})`}`;
  };
  return `${part('value', 'for', final.value)}${part('close_date', 'on', final.day)}`;
}

function moveDetail({ move, over, forced, open, waived = [] }: Moved, words: EventWords): string {
  const skipped = move === 'skip' ? `, skipping ${over.map((id) => stageWords(id, words)).join(', ')}` : '';
  const left = open.length > 0 ? ` with ${requirementsOpen(open.length)}` : '';
  const passed = waived.length > 0 ? `, ${requirementsOf(waived.length)} on a waiver` : '';
  return `${skipped}${passed}${forced === 'yes' ? ', forced' : ''}${left}`;
}

function moveName({ move, from, to, outcome = move }: MoveParts, words: EventWords): string {
  if (move === 'won' || move === 'lost') return `Closed as ${outcomeWords(outcome, words).toLowerCase()}`;
  const [there, here] = [stageWords(to, words), stageWords(from, words)];
  return move === 'return' ? `${here} ← back to ${there}` : `${here} → ${there}`;
}

const refused: EventKind<
  'refused',
  { readonly from: StageId; readonly target: string; readonly open: readonly string[] }
> = {
  kind: 'refused',
  shape: { from: { is: 'key' }, target: { is: 'name' }, open: NAMES },
  says: ({ target, open }, words) => [
    strong(`Move to ${targetWords(target, words)}`),
    plain(` refused: ${requirementsOpen(open.length)}`),
  ],
};

const attemptWithdrawn: EventKind<'attempt_withdrawn', { readonly target: string }> = {
  kind: 'attempt_withdrawn',
  shape: { target: { is: 'name' } },
  says: ({ target }, words) => [plain('Gave up moving to '), strong(targetWords(target, words))],
};

const takenBack: EventKind<'taken_back', MoveParts & Pick<Moved, 'seq'>> = {
  kind: 'taken_back',
  shape: { seq: { is: 'count' }, move: MOVE, from: KEY_OR_NONE, to: KEY_OR_NONE, outcome: OUTCOME },
  says: (body, words) => [strong('Taken back'), plain(`: ${moveName(body, words)}`)],
};

const versionChanged: EventKind<'version_changed', { readonly before: string; readonly after: string }> = {
  kind: 'version_changed',
  shape: { before: { is: 'id' }, after: { is: 'id' } },
  says: () => [plain('Moved over to a newer version of the process')],
};

export const MOVE_EVENTS = [moved, refused, attemptWithdrawn, takenBack, versionChanged] as const;
