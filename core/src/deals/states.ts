import { isMoney } from '../facts/value.ts';
import type { Instant } from '../time/day.ts';
import type { Deal } from './deal.ts';
import { OPEN_ENDED, standingAt, standsAt } from './finding.ts';
import type { DealState, StateAsked } from './parts/states.ts';
import { textValue } from './parts/values.ts';
import { presentVisit, type Visit } from './parts/visits.ts';
import { isClosed } from './status.ts';

/*
 * What is asked of a deal at any instant comes from three places: where it stood from its stays, how it stood from its
 * findings, and all else from what was so of it then. A move that is taken back is gone from the past too (S11), and so is
 * idleness that a call written down late has ended; nothing else about the past changes.
 */

/**
 * The deal's states after a change at `at`, its findings judged. What is as it was stays the very same object. A voided
 * deal has been nothing else (S11).
 */
export function reviseStates(deal: Deal, at: Instant): readonly DealState[] {
  if (deal.status.state === 'voided') return voidedState(deal, at);
  const cuts = turns(deal, at);
  const pieces = cuts.map((from, place) => stateFrom(deal, from, cuts[place + 1] ?? OPEN_ENDED, at));
  return joined(pieces).map((piece) => deal.states.find((known) => isSame(known, piece)) ?? piece);
}

/** What a change says otherwise of the time before it: the states that were taken to be so, and those that are said to be instead. */
export interface Restated {
  readonly was: readonly DealState[];
  readonly is: readonly DealState[];
}

/**
 * What a change at `at` says otherwise of the time before it (S21): a move that was taken back, idleness that a call written down
 * late has ended, a stay that began before it was written down. Of the states before and after it, each in order and without
 * overlap, gives the parts that lie before `at` and that the others do not say alike.
 */
export function restated(before: readonly DealState[], after: readonly DealState[], at: Instant): Restated {
  const [was, is] = [statesUntil(before, at), statesUntil(after, at)];
  return { was: without(was, is), is: without(is, was) };
}

const statesUntil = (states: readonly DealState[], at: Instant): readonly DealState[] =>
  states.filter(({ from }) => from < at).map((state) => (state.to <= at ? state : { ...state, to: at }));

/** The parts of states that others do not say alike. */
const without = (states: readonly DealState[], others: readonly DealState[]): readonly DealState[] =>
  states.flatMap((state) =>
    others
      .filter((other) => other.from < state.to && state.from < other.to && saysSame(state, other))
      .reduce<readonly DealState[]>((left, other) => left.flatMap((part) => partsBeside(part, other)), [state]),
  );

const partsBeside = (state: DealState, { from, to }: DealState): readonly DealState[] =>
  [
    { ...state, to: Math.min(state.to, from) },
    { ...state, from: Math.max(state.from, to) },
  ].filter((part) => part.from < part.to);

const voidedState = (deal: Deal, at: Instant): readonly DealState[] =>
  deal.states[0]?.status === 'voided' ? deal.states : [stateFrom(deal, at, OPEN_ENDED, at)];

/** Every instant at which something asked of the deal may turn, the beginning first. */
function turns(deal: Deal, at: Instant): readonly Instant[] {
  const begin = deal.states[0]?.from ?? Math.min(at, deal.visits[0]?.enteredAt ?? at);
  const later = new Set<Instant>();
  const add = (instant: Instant): void => {
    if (instant > begin && instant < OPEN_ENDED) later.add(instant);
  };
  add(at);
  for (const { from } of deal.states) add(from);
  for (const { enteredAt, left } of stays(deal)) {
    add(enteredAt);
    if (left) add(left.at);
  }
  for (const { openedAt, closedAt } of deal.findings) {
    add(openedAt);
    add(closedAt);
  }
  return [begin, ...[...later].sort((a, b) => a - b)];
}

const stays = ({ visits }: Deal): readonly Visit[] => visits.filter(({ takenBack }) => takenBack === 'no');

/** What is asked of the deal from an instant on. Every property is written out, for states are made for each deal many times over. */
function stateFrom(deal: Deal, from: Instant, to: Instant, at: Instant): DealState {
  const before = from < at ? deal.states.find((known) => known.from <= from && from < known.to) : undefined;
  const visit = stays(deal).findLast(({ enteredAt }) => enteredAt <= from) ?? presentVisit(deal);
  const { owner, team, value, currency, closeDate } = before ?? presentFacts(deal);
  const { standing, findings, kinds, owed } = standingOf(deal, from);
  return {
    status: statusAt(deal, visit, from, before),
    stage: visit.stage,
    enteredAt: visit.enteredAt,
    enteredDay: visit.enteredDay,
    moveOnDay: visit.moveOnDay,
    owner,
    team,
    value,
    currency,
    closeDate,
    standing,
    findings,
    kinds,
    owed,
    from,
    to,
  };
}

/** Between two stays a deal is closed as it was then, after the last one as it is. */
function statusAt(
  { status }: Deal,
  { left }: Visit,
  instant: Instant,
  before: StateAsked | undefined,
): StateAsked['status'] {
  if (status.state === 'voided') return 'voided';
  if (left === null || instant < left.at) return 'open';
  return isClosed(status) && instant >= status.at ? status.state : (before?.status ?? 'open');
}

function presentFacts(deal: Deal) {
  const { values, currency } = deal;
  return {
    owner: textValue(deal, 'owner'),
    team: textValue(deal, 'team'),
    value: isMoney(values.value) ? values.value.minor : null,
    currency,
    closeDate: textValue(deal, 'close_date'),
  };
}

function standingOf(
  { findings }: Deal,
  instant: Instant,
): Pick<StateAsked, 'standing' | 'findings' | 'kinds' | 'owed'> {
  const found = findings.filter((finding) => standsAt(finding, instant));
  return {
    standing: standingAt(found, instant),
    findings: found.length,
    kinds: found
      .map(({ kind }) => kind)
      .sort()
      .join(' '),
    owed: found.filter(({ origin }) => origin === 'owed' || origin === 'entry').length,
  };
}

const ASKED = [
  'status',
  'stage',
  'enteredAt',
  'enteredDay',
  'moveOnDay',
  'owner',
  'team',
  'value',
  'currency',
  'closeDate',
  'standing',
  'findings',
  'kinds',
  'owed',
] as const satisfies readonly (keyof StateAsked)[];

/** Neighbours that say the same are one. */
function joined(pieces: readonly DealState[]): readonly DealState[] {
  const list: DealState[] = [];
  for (const piece of pieces) {
    const last = list.at(-1);
    if (last && saysSame(last, piece)) list[list.length - 1] = { ...last, to: piece.to };
    else list.push(piece);
  }
  return list;
}

const isSame = (a: DealState, b: DealState): boolean => a.from === b.from && a.to === b.to && saysSame(a, b);

const saysSame = (a: DealState, b: DealState): boolean => ASKED.every((property) => a[property] === b[property]);
