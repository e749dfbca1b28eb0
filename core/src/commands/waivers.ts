import { type Actor, personActor } from '../deals/actor.ts';
import type { Deal } from '../deals/deal.ts';
import { keepVerdict } from '../deals/moveRecord.ts';
import { textValue } from '../deals/parts/values.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import { openWaivers, type Waiver, waiversInForce } from '../deals/parts/waivers.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { type MoveTarget, targetText } from '../gate/route.ts';
import { isOpen } from '../requirements/item.ts';
import { failed, ok, type Result } from '../result.ts';
import { addDays, type Day, localDay, startOfDay } from '../time/day.ts';
import { changeBy, journal, revised, type Step } from './change.ts';
import { endWaivers, overtakenBy, substanceNow, withWaivers } from './conformWaivers.ts';
import { type MoveProblem, previewMove } from './move.ts';

export interface WaiverRequest {
  readonly target: MoveTarget;
  /** Ids of the requirements that are to be passed. */
  readonly items: readonly string[];
  readonly why: string;
  /** Until the end of this local day. */
  readonly until: Day;
}

export type AskWaiverProblem =
  | { readonly code: 'text_needed' | 'nothing_asked' | 'in_the_past' }
  /** No waiver of the process lasts that long. */
  | { readonly code: 'too_long'; readonly mostDays: number }
  /** They do not hold this move, or not any more. */
  | { readonly code: 'not_holding'; readonly items: readonly string[] }
  | { readonly code: 'move'; readonly problem: MoveProblem };

/**
 * Asks that requirements which hold a move may be passed. What is asked for already is the same request, and changes nothing.
 * Errors: no reason, nothing named, a day that is past or too far, something that does not hold the move.
 */
export const askWaiver = (
  deal: Deal,
  setting: Setting,
  request: WaiverRequest,
  asked: Moment,
): Result<Change, AskWaiverProblem> => changeBy(deal, setting, asked, askStep(setting, request));

const askStep =
  (setting: Setting, { target, items, why, until }: WaiverRequest): Step<AskWaiverProblem> =>
  (deal, moment) => {
    const problem = askProblem(setting, { target, items, why, until }, moment);
    if (problem) return failed(problem);
    const preview = previewMove(deal, setting, target, moment);
    if (!preview.ok) return failed({ code: 'move', problem: preview.error });
    const { verdict } = preview.value;
    const holding = new Set(
      verdict.items.flatMap(({ item, state }) => (item.level === 'hold' && isOpen(state) ? [item.id] : [])),
    );
    const strange = items.filter((id) => !holding.has(id));
    if (strange.length > 0) return failed({ code: 'not_holding', items: strange });
    const known = new Set(openWaivers(deal).map(({ requirement }) => requirement));
    const fresh = [...new Set(items)].filter((id) => !known.has(id));
    if (fresh.length === 0) return ok({ deal, records: [] });
    const request = Math.max(0, ...deal.waivers.map((one) => one.request)) + 1;
    const waivers = fresh.map(
      (requirement, place): Waiver => ({
        seq: deal.waivers.length + 1 + place,
        request,
        requirement,
        substance: substanceNow(setting.document, requirement) ?? '',
        target: targetText(target),
        visitSeq: presentVisit(deal).seq,
        why: why.trim(),
        until,
        askedAt: moment.happenedAt,
        askedBy: moment.by,
        verdict: keepVerdict(verdict),
        decision: null,
        covers: null,
        end: null,
      }),
    );
    const after = { ...deal, waivers: [...deal.waivers, ...waivers] };
    const body = { kind: 'waiver_asked', request, target: targetText(target), items: fresh, until } as const;
    return ok({ deal: after, records: [journal(after, moment, body, why.trim())] });
  };

function askProblem(
  { zone, waiverRights }: Setting,
  { items, why, until }: WaiverRequest,
  { recordedAt }: Moment,
): AskWaiverProblem | null {
  const today = localDay(recordedAt, zone);
  if (why.trim() === '') return { code: 'text_needed' };
  if (items.length === 0) return { code: 'nothing_asked' };
  if (until < today) return { code: 'in_the_past' };
  const { mostDays } = waiverRights;
  return until > addDays(today, mostDays) ? { code: 'too_long', mostDays } : null;
}

export type DecideWaiverProblem =
  | { readonly code: 'no_such_request' | 'own' | 'text_needed' | 'in_the_past' | 'wider' }
  /** It was decided meanwhile. */
  | { readonly code: 'decided'; readonly waiver: Waiver }
  /** The deal has moved or closed since, or what it asks was published away (S61). */
  | { readonly code: 'overtaken'; readonly by: 'move' | 'closing' | 'publish' };

export type WaiverAnswer =
  | { readonly how: 'granted'; readonly until: Day; readonly word: string | null }
  | { readonly how: 'refused'; readonly word: string };

/**
 * Grants a request, for as long as asked or shorter, or refuses it with a word. That the person may decide is the caller's to
 * know; that nobody grants their own is said here. Errors: decided already, overtaken by what happened to the deal, wider.
 */
export const decideWaiver = (
  deal: Deal,
  setting: Setting,
  request: number,
  answer: WaiverAnswer,
  asked: Moment,
): Result<Change, DecideWaiverProblem> =>
  changeBy<DecideWaiverProblem>(deal, setting, asked, (before, moment) => {
    const [first, ...others] = before.waivers.filter((one) => one.request === request);
    if (!first) return failed({ code: 'no_such_request' });
    const problem = decideProblem(before, setting, [first, ...others], answer, moment);
    if (problem) return failed(problem);
    const at = moment.happenedAt;
    const until = answer.how === 'granted' ? answer.until : null;
    const decision = { how: answer.how, at, by: moment.by, word: answer.word?.trim() || null, until };
    const covers = until === null ? null : { from: at, to: startOfDay(addDays(until, 1), setting.zone) };
    const after = withWaivers(before, (one) => (one.request === request ? { ...one, decision, covers } : one));
    const body = { kind: 'waiver_decided', request, how: answer.how, until } as const;
    // What is waived is a fact that gates read.
    const told = answer.how === 'granted' ? revised(after) : after;
    return ok({ deal: told, records: [journal(told, moment, body, decision.word)] });
  });

function decideProblem(
  deal: Deal,
  setting: Setting,
  waivers: readonly [Waiver, ...Waiver[]],
  answer: WaiverAnswer,
  { by, recordedAt }: Moment,
): DecideWaiverProblem | null {
  const [first] = waivers;
  if (first.decision?.how === 'lapsed') return { code: 'overtaken', by: overtakenBy(deal, setting, first) ?? 'move' };
  if (first.decision) return { code: 'decided', waiver: first };
  if (first.askedBy === by) return { code: 'own' };
  for (const waiver of waivers) {
    const overtaken = overtakenBy(deal, setting, waiver);
    if (overtaken) return { code: 'overtaken', by: overtaken };
  }
  if (answer.how === 'refused') return answer.word.trim() === '' ? { code: 'text_needed' } : null;
  if (answer.until > first.until) return { code: 'wider' };
  return answer.until < localDay(recordedAt, setting.zone) ? { code: 'in_the_past' } : null;
}

export type EndWaiverProblem = {
  readonly code: 'no_such_request' | 'not_yours' | 'decided' | 'not_in_force' | 'text_needed';
};

/** Who asked, or whoever owns the deal by now, takes the request back. Errors: someone else's, decided already. */
export const withdrawWaiver = (
  deal: Deal,
  setting: Setting,
  request: number,
  asked: Moment,
): Result<Change, EndWaiverProblem> =>
  changeBy<EndWaiverProblem>(deal, setting, asked, (before, moment) => {
    const first = before.waivers.find((one) => one.request === request);
    if (!first) return failed({ code: 'no_such_request' });
    if (first.askedBy !== moment.by && !isOwner(before, moment.by)) return failed({ code: 'not_yours' });
    if (first.decision) return failed({ code: 'decided' });
    const decision = { how: 'withdrawn', at: moment.happenedAt, by: moment.by, word: null, until: null } as const;
    const after = withWaivers(before, (one) => (one.request === request ? { ...one, decision } : one));
    return ok({ deal: after, records: [journal(after, moment, { kind: 'waiver_withdrawn', request })] });
  });

const isOwner = (deal: Deal, by: Actor): boolean => {
  const owner = textValue(deal, 'owner');
  return owner !== null && personActor(owner) === by;
};

/** Who granted a waiver revokes it, with a word. Errors: someone else's, not in force. */
export const revokeWaiver = (
  deal: Deal,
  setting: Setting,
  request: number,
  word: string,
  asked: Moment,
): Result<Change, EndWaiverProblem> =>
  changeBy<EndWaiverProblem>(deal, setting, asked, (before, moment) => {
    const first = before.waivers.find((one) => one.request === request);
    if (!first) return failed({ code: 'no_such_request' });
    if (word.trim() === '') return failed({ code: 'text_needed' });
    if (first.decision?.by !== moment.by) return failed({ code: 'not_yours' });
    const inForce = waiversInForce(before, moment.happenedAt).filter((one) => one.request === request);
    if (inForce.length === 0) return failed({ code: 'not_in_force' });
    const end = { how: 'revoked', at: moment.happenedAt, by: moment.by, word: word.trim(), moveSeq: null } as const;
    const after = revised(endWaivers(before, inForce, end));
    return ok({ deal: after, records: [journal(after, moment, { kind: 'waiver_revoked', request }, word.trim())] });
  });
