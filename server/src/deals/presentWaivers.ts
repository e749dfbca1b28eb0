import type { deal as contract, TypeOf } from '@ladder/contract';
import {
  type Deal,
  describeItem,
  itemsOf,
  type KeptVerdict,
  localDay,
  type NameOf,
  namesWith,
  outcomeOf,
  type Piece,
  personActor,
  personOf,
  type Setting,
  stageOf,
  targetFromText,
  textValue,
  type Waiver,
} from '@ladder/core';
import type { Person } from '../session/person.ts';

type View = TypeOf<typeof contract.detail>['waivers'][number];

/** Whether the person's role decides on waivers of the process. */
export const mayDecide = ({ role }: Person, { waiverRights }: Setting): boolean =>
  (waiverRights.roles as readonly string[]).includes(role);

const ORDER: Readonly<Record<View['state'], number>> = {
  asked: 0,
  in_force: 1,
  ended: 2,
  refused: 2,
  withdrawn: 2,
  lapsed: 2,
};

/** Requests, those to be decided first, then those in force, then the others, the last first. */
export function presentWaivers(
  deal: Deal,
  setting: Setting,
  person: Person,
  now: number,
  nameOf: NameOf,
): readonly View[] {
  const requests = [...new Set(deal.waivers.map(({ request }) => request))];
  return requests
    .map((request) => deal.waivers.filter((one) => one.request === request))
    .flatMap(([first, ...others]) =>
      first ? [presentRequest(deal, [first, ...others], setting, person, now, nameOf)] : [],
    )
    .sort((a, b) => ORDER[a.state] - ORDER[b.state] || b.request - a.request);
}

type Request = readonly [Waiver, ...Waiver[]];

function presentRequest(
  deal: Deal,
  waivers: Request,
  setting: Setting,
  person: Person,
  now: number,
  nameOf: NameOf,
): View {
  const [first] = waivers;
  const { request, why, until, askedAt, askedBy, decision } = first;
  const dayOf = (at: number): string => localDay(at, setting.zone);
  const asker = personOf(askedBy);
  const state = stateOf(waivers, now);
  const self = personActor(person.id);
  const end = waivers.find((one) => one.end)?.end ?? null;
  return {
    request,
    target: targetWords(first.target, setting),
    items: waivers.map(({ requirement, verdict }) => ({
      id: requirement,
      says: sayItem(requirement, setting, nameOf),
      state: verdict.items.find(({ id }) => id === requirement)?.state ?? 'unmet',
    })),
    why,
    until,
    askedDay: dayOf(askedAt),
    askedBy: asker === null ? null : { id: asker, name: nameOf(asker) ?? 'Unknown' },
    state,
    decision: decision && {
      by: nameOf(decision.by) ?? null,
      day: dayOf(decision.at),
      word: decision.word,
      until: decision.until,
    },
    end:
      end && state === 'ended'
        ? { how: end.how, by: nameOf(end.by) ?? null, day: dayOf(end.at), word: end.word }
        : null,
    may: {
      decide: state === 'asked' && askedBy !== self && mayDecide(person, setting),
      withdraw: state === 'asked' && (askedBy === self || textValue(deal, 'owner') === person.id),
      revoke: state === 'in_force' && decision?.by === self,
    },
  };
}

/** Those of a request that are in force make it so, though others of it have ended. */
function stateOf(waivers: Request, now: number): View['state'] {
  const [{ decision }] = waivers;
  if (!decision) return 'asked';
  if (decision.how !== 'granted') return decision.how;
  return waivers.some(({ covers }) => covers !== null && now < covers.to) ? 'in_force' : 'ended';
}

/** The gate as it was kept, as its requirements are called now. */
export const presentKeptVerdict = ({ items }: KeptVerdict, setting: Setting, nameOf: NameOf): View['items'] =>
  items.map(({ id, state }) => ({ id, state, says: sayItem(id, setting, nameOf) }));

function sayItem(id: string, setting: Setting, nameOf: NameOf): readonly Piece[] {
  const { document, catalogue } = setting;
  const item = itemsOf(document).get(id);
  if (item) return describeItem(item, catalogue, namesWith(document, nameOf));
  const text = id.startsWith('rule:') ? 'Going back' : 'A requirement that the process no longer has';
  return [{ text, strong: false }];
}

function targetWords(text: string, { document }: Setting): string {
  const target = targetFromText(text);
  const rung = target.to === 'stage' ? stageOf(document, target.stage) : outcomeOf(document, target.outcome);
  return rung?.name ?? 'a stage that is gone';
}
