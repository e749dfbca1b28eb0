import { randomUUID } from 'node:crypto';
import { DEMO_PASSWORD } from '@ladder/contract';
import {
  type AskedItem,
  compileGate,
  type GateFacts,
  newResult,
  newStep,
  type Stage,
  type StageId,
} from '@ladder/core';
import { CATALOGUE, factsOf } from '@ladder/core/testing/builders.ts';
import { ADMINISTRATOR } from '@ladder/demo/company/people.ts';
import { seededRandom } from '@ladder/demo/random.ts';
import { startBenchCluster } from './book/benchBook.ts';
import { Caller } from './load/caller.ts';
import { median } from './load/inTurns.ts';
import { serveOurs } from './load/processes.ts';
import { measure, report } from './measure.ts';

/*
 * A result that moves the deal on, beside the plain move that it makes, press by press in turns on one database; and the gate of
 * steps, documents and activities beside that of as many fields.
 */

const BOOK = 10_000;
/** Pairs of deals, and how often each is moved on: few times, as a deal of the trade is. */
const PAIRS = 40;
const TURNS = 6;
const DEALS = 20_000;

const step = {
  ...newStep('go', 'Go', { id: 'on', name: 'On' }),
  results: [{ ...newResult({ id: 'on', name: 'On' }), leads: { to: 'move_on' } as const }],
  afterReturn: 'again' as const,
};
const bare = (id: string, steps: Stage['steps']): Stage => ({
  id: id as StageId,
  name: id,
  purpose: '',
  chance: 10,
  target: null,
  idleDays: null,
  enter: [],
  leave: [],
  checklist: [],
  steps,
  arrival: [],
});

interface Known {
  readonly id: string;
  readonly version: { readonly id: string };
  readonly revision: number;
  readonly stepsAtHand: readonly { readonly seq: number }[];
}

/** A process of two stages, and how a deal of it is begun. */
async function publish(caller: Caller, name: string, steps: Stage['steps']): Promise<() => Promise<Known>> {
  const { id } = await send<{ id: string }>(caller, 'POST', '/processes', {
    name,
    kind: 'deal',
    currency: 'GBP',
    firstStage: 'x',
  });
  const draft = await caller.read<{ document: object; revision: number }>(`/api/v1/processes/${id}/draft`);
  const document = { ...draft.document, stages: [bare('a', steps), bare('b', [])] };
  const saved = await send<{ revision: number }>(caller, 'PUT', `/processes/${id}/draft`, { document }, draft.revision);
  const how = { deals: 'move_over', graceDays: 0, transfers: {} };
  await send(caller, 'POST', `/processes/${id}/draft/publish`, how, saved.revision);
  return () => send(caller, 'POST', '/deals', { process: id, name, values: {} });
}

async function send<T>(caller: Caller, method: string, path: string, body: object, seen?: number): Promise<T> {
  const headers = { 'Idempotency-Key': randomUUID(), ...(seen === undefined ? {} : { 'If-Match': `"${seen}"` }) };
  const { status, text } = await caller.ask(method, `/api/v1${path}`, body, headers);
  if (status >= 300) throw new Error(`${method} ${path} answered ${status}: ${text.slice(0, 300)}`);
  return JSON.parse(text) as T;
}

/** Milliseconds of one press, and the deal after it. */
async function timed(press: () => Promise<{ deal: Known }>): Promise<{ ms: number; deal: Known }> {
  const began = performance.now();
  const { deal } = await press();
  return { ms: performance.now() - began, deal };
}

const move = (caller: Caller, deal: Known, stage: string): Promise<{ deal: Known }> =>
  send(caller, 'POST', `/deals/${deal.id}/moves`, {
    target: { to: 'stage', stage },
    revision: deal.revision,
    text: 'back',
  });
const end = (caller: Caller, deal: Known): Promise<{ deal: Known }> =>
  send(caller, 'POST', `/deals/${deal.id}/steps/${deal.stepsAtHand[0]?.seq}/result`, {
    result: 'on',
    version: deal.version.id,
    captures: [],
  });

async function resultBesideMove(): Promise<void> {
  const cluster = await startBenchCluster();
  try {
    const book = await cluster.copyOf(BOOK);
    const served = await serveOurs(book.serverUrl);
    const caller = new Caller(served.url);
    await caller.signIn(ADMINISTRATOR.email, DEMO_PASSWORD);
    const beginGuided = await publish(caller, 'Guided', [step]);
    const beginPlain = await publish(caller, 'Plain', []);
    const times = { result: [] as number[], move: [] as number[] };
    for (let pair = 0; pair < PAIRS; pair++) {
      let [guided, plain] = [await beginGuided(), await beginPlain()];
      for (let turn = 0; turn < TURNS; turn++) {
        const [a, b] = [await timed(() => end(caller, guided)), await timed(() => move(caller, plain, 'b'))];
        // The first pairs warm the program up.
        if (pair >= PAIRS / 5) {
          times.result.push(a.ms);
          times.move.push(b.ms);
        }
        guided = (await move(caller, a.deal, 'a')).deal;
        plain = (await move(caller, b.deal, 'a')).deal;
      }
    }
    const [ours, theirs] = [median(times.result), median(times.move)];
    console.log(
      `steps a result that moves the deal on costs ${(ours / theirs).toFixed(2)} of a plain move (${ours.toFixed(1)} and ${theirs.toFixed(1)} ms)`,
    );
    caller.close();
    await served.stop();
  } finally {
    await cluster.stop();
  }
}

const asked = { stage: 's' as StageId, at: 'enter', level: 'hold', binds: 'at_move', passedOver: false } as const;
const KINDS: readonly AskedItem[] = [
  { ...asked, id: '1', kind: 'steps', of: 's' },
  { ...asked, id: '2', kind: 'step', step: 'one', results: ['on', 'up'] },
  { ...asked, id: '3', kind: 'step', step: 'two', results: ['on'] },
  { ...asked, id: '4', kind: 'document', document: 'report' },
  { ...asked, id: '5', kind: 'document', document: 'quote' },
  { ...asked, id: '6', kind: 'activities', activity: 'visit', least: 1, within: 'ever' },
  { ...asked, id: '7', kind: 'activities', activity: 'call', least: 2, within: 'stay' },
];
const FIELDS: readonly AskedItem[] = ['area', 'survey', 'crop', 'group', 'paid', 'notes', 'cost'].map((id) => ({
  ...asked,
  id,
  kind: 'field',
  field: id,
}));

function makeFacts(): readonly GateFacts[] {
  const random = seededRandom(3);
  const some = <T>(value: T): T | null => (random() < 0.6 ? value : null);
  const counts = () => ({
    note: 0,
    call: Math.floor(random() * 4),
    message: 0,
    meeting: 0,
    visit: Math.floor(random() * 2),
  });
  return Array.from({ length: DEALS }, () =>
    factsOf(Object.fromEntries(FIELDS.map(({ id }) => [id, some('x')])), {
      stepsFinished: new Set(random() < 0.6 ? ['s'] : []),
      stepResults: Object.fromEntries(
        ['one', 'two'].flatMap((id) => (random() < 0.6 ? [[id, { result: 'on', day: '2026-11-01' }]] : [])),
      ),
      documentCounts: { report: Math.floor(random() * 2), quote: Math.floor(random() * 2) },
      activityCounts: { ever: counts(), stay: counts() },
    }),
  );
}

function kindsBesideFields(): void {
  const facts = makeFacts();
  const contenders = { kinds: compileGate(KINDS, CATALOGUE), fields: compileGate(FIELDS, CATALOGUE) };
  const judge = (gate: typeof contenders.kinds) => () => facts.reduce((open, one) => open + gate.missing(one), 0);
  const times = measure([
    { name: 'kinds', run: judge(contenders.kinds) },
    { name: 'fields', run: judge(contenders.fields) },
  ]);
  report('steps', times, 'kinds', DEALS, 'verdicts a second');
}

kindsBesideFields();
await resultBesideMove();
