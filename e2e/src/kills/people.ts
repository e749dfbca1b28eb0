import { randomUUID } from 'node:crypto';
import { setTimeout as pause } from 'node:timers/promises';
import { type Caller, Refused } from './caller.ts';

/** A deal as its seller believes it to be: what was answered, and nothing else. */
export interface Believed {
  readonly id: string;
  readonly name: string;
  source: string | null;
  stage: number;
  moves: number;
  readonly activities: string[];
}

/** An import as its administrator believes it to be. */
export interface BelievedImport {
  readonly id: string;
  readonly prefix: string;
  readonly rows: number;
  readonly takenBack: boolean;
}

/** What all people together were told. */
export interface Beliefs {
  readonly deals: Believed[];
  readonly imports: BelievedImport[];
  published: number;
}

export interface Work {
  readonly process: string;
  readonly stages: readonly string[];
  readonly beliefs: Beliefs;
  /** A whole number below the bound; of each person's own. */
  readonly below: (bound: number) => number;
  readonly goesOn: () => boolean;
}

const key = () => ({ 'Idempotency-Key': randomUUID() });

/** Begins deals and takes them up the ladder, writing things down on the way. */
export async function sell(caller: Caller, work: Work, who: string): Promise<void> {
  for (let number = 1; work.goesOn(); number++) {
    const name = `${who} ${number}`;
    const body = { process: work.process, name, values: {} };
    const { id } = await caller.ask('POST', '/deals', body, key());
    const deal: Believed = { id, name, source: null, stage: 0, moves: 0, activities: [] };
    work.beliefs.deals.push(deal);
    while (work.goesOn() && deal.stage < work.stages.length - 1) await step(caller, work, deal);
  }
}

async function step(caller: Caller, work: Work, deal: Believed): Promise<void> {
  const turn = work.below(3);
  if (turn === 0) {
    const value = `Fair ${work.below(1_000_000)}`;
    await caller.ask('PATCH', `/deals/${deal.id}`, { changes: [{ field: 'source', saw: deal.source, value }] }, key());
    deal.source = value;
  } else if (turn === 1) {
    const text = randomUUID();
    await caller.ask('POST', `/deals/${deal.id}/activities`, { kind: 'note', text }, key());
    deal.activities.push(text);
  } else await climb(caller, work, deal);
}

/** One rung up. A publish may have moved the deal over meanwhile: then it is read again and asked anew. */
async function climb(caller: Caller, work: Work, deal: Believed): Promise<void> {
  for (;;) {
    const { revision } = await caller.ask('GET', `/deals/${deal.id}`);
    const target = { to: 'stage', stage: work.stages[deal.stage + 1] };
    try {
      await caller.ask('POST', `/deals/${deal.id}/moves`, { target, revision }, key());
      deal.stage++;
      deal.moves++;
      return;
    } catch (error) {
      if (!(error instanceof Refused) || error.status !== 409) throw error;
    }
  }
}

/** What is done instead where the first try had done it, and its answer was lost. */
const unlessRefusedWith =
  <T>(status: number, instead: () => T) =>
  (error: unknown): T => {
    if (error instanceof Refused && error.status === status) return instead();
    throw error;
  };

/** What every other version asks of whoever begins. */
export const ASKED = {
  id: 'source_told',
  kind: 'field',
  field: 'source',
  level: 'flag',
  binds: 'must_stay',
};

type Draft = { readonly stages: readonly Record<string, unknown>[] };

/** Other words; and now and then the first stage asks for the source, or no longer. */
function changed(document: Draft, purpose: string, { below }: Work): Draft {
  const [first, ...others] = document.stages;
  return { ...document, purpose, stages: [{ ...first, enter: below(2) === 0 ? [ASKED] : [] }, ...others] } as Draft;
}

/** Changes the process again and again, and publishes it. */
export async function publish(caller: Caller, work: Work): Promise<void> {
  const draft = `/processes/${work.process}/draft`;
  while (work.goesOn()) {
    const purpose = `For the ${work.beliefs.published + 1}th time`;
    const read = () => caller.ask('GET', draft);
    const { document, revision } = await caller.ask('POST', draft).catch(unlessRefusedWith(409, read));
    const saved = await caller
      .ask('PUT', draft, { document: changed(document, purpose, work) }, { 'If-Match': `"${revision}"` })
      .catch(unlessRefusedWith(412, read));
    // Moving a whole book over takes long, and holds it meanwhile: not every time.
    const deals = work.below(3) === 0 ? 'move_over' : 'stay';
    const how = { deals, graceDays: 0, transfers: {} };
    await caller.ask('POST', `${draft}/publish`, how, { 'If-Match': `"${saved.revision}"`, ...key() });
    work.beliefs.published++;
    await pause(500 + work.below(1_500));
  }
}

const begunAlready = unlessRefusedWith(409, () => undefined);

/** Imports files one after the other, and takes two of three back. */
export async function importFiles(caller: Caller, work: Work): Promise<void> {
  for (let number = 1; work.goesOn(); number++) {
    const prefix = `I${number}-`;
    const rows = 100 + work.below(600);
    const file = `Id,Deal\n${Array.from({ length: rows }, (_none, place) => `${prefix}${place},Row ${place}`).join('\n')}\n`;
    const uploaded = await caller.ask('POST', `/imports?fileName=${number}.csv&process=${work.process}`, file);
    const { id } = uploaded.import;
    await caller.ask('POST', `/imports/${id}/run`, uploaded.preview.settings).catch(begunAlready);
    await until(caller, id, ['done']);
    if (number % 3 > 0) await caller.ask('POST', `/imports/${id}/take-back`).catch(begunAlready);
    // It stays done where a publish has touched its deals meanwhile.
    const state = await until(caller, id, ['taken_back', 'done']);
    work.beliefs.imports.push({ id, prefix, rows, takenBack: state === 'taken_back' });
  }
}

async function until(caller: Caller, id: string, states: readonly string[]): Promise<string> {
  for (;;) {
    const { state, failure } = await caller.ask('GET', `/imports/${id}`);
    if (states.includes(state)) return state;
    if (state === 'failed') throw new Error(`The import failed: ${failure}`);
    await pause(200);
  }
}
