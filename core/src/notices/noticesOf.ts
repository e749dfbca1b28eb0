import { type Actor, personOf } from '../deals/actor.ts';
import type { Deal } from '../deals/deal.ts';
import { textValue } from '../deals/parts/values.ts';
import type { Change, JournalEntry } from '../deals/record.ts';
import type { JournalBody } from '../events/kinds.ts';
import type { DealId } from '../ids.ts';
import { mentionsIn } from './mentions.ts';

/** What the bell tells of. */
export const NOTICE_KINDS = [
  'mentioned',
  'assigned',
  'waiver_asked',
  'waiver_decided',
  'watched',
  'published',
] as const;
export type NoticeKind = (typeof NOTICE_KINDS)[number];

/** Whom it is told: a person, whoever watches the deal, or whoever may decide on its waivers. */
export type NoticeFor =
  | { readonly who: 'person'; readonly person: string }
  | { readonly who: 'watchers' }
  | { readonly who: 'deciders' };

export interface Notice {
  readonly kind: NoticeKind;
  readonly deal: DealId;
  readonly for: NoticeFor;
  /** The thing: told once to each person, and once more after that was read. */
  readonly about: string;
  readonly event: JournalBody['kind'];
  readonly by: Actor;
  readonly at: number;
}

/**
 * What a change of a deal tells people, from what it wrote into the journal. Whoever did it is told nothing of it, which is
 * seen to where they are looked up (S63).
 */
export const noticesOf = ({ deal, records }: Change): readonly Notice[] =>
  records.flatMap((record) => (record.kind === 'journal' ? noticesOfEntry(deal, record.entry) : []));

type Telling = Pick<Notice, 'kind' | 'for' | 'about'>;

const WATCHED: Telling = { kind: 'watched', for: { who: 'watchers' }, about: 'watched' };

const noticesOfEntry = (deal: Deal, entry: JournalEntry): readonly Notice[] =>
  [...directTellings(deal, entry), WATCHED].map((telling) => ({
    deal: deal.id,
    event: entry.body.kind,
    by: entry.by,
    at: entry.recordedAt,
    ...telling,
    about: `${telling.about} ${deal.id}`,
  }));

function directTellings(deal: Deal, { body, text, recordedAt }: JournalEntry): readonly Telling[] {
  switch (body.kind) {
    case 'activity':
    case 'step_noted':
      return mentionsIn(text ?? '').map((person) => toPerson('mentioned', person, `mentioned ${recordedAt}`));
    case 'task_added':
    case 'task_passed':
      return body.to === null ? [] : [toPerson('assigned', body.to, `task ${body.task}`)];
    case 'step_passed':
      return [toPerson('assigned', body.to, `step ${body.run}`)];
    case 'reassigned':
      return body.owner.after === null || body.owner.after === body.owner.before
        ? []
        : [toPerson('assigned', body.owner.after, 'owner')];
    case 'waiver_asked':
      return [{ kind: 'waiver_asked', for: { who: 'deciders' }, about: `waiver ${body.request}` }];
    case 'waiver_decided':
      return askers(deal, body.request).map((person) => toPerson('waiver_decided', person, `decision ${body.request}`));
    default:
      return [];
  }
}

/** Who asked for a waiver, and whose deal it is. */
function askers(deal: Deal, request: number): readonly string[] {
  const asked = deal.waivers.find((one) => one.request === request);
  const people = [asked ? personOf(asked.askedBy) : null, textValue(deal, 'owner')];
  return [...new Set(people.flatMap((person) => person ?? []))];
}

const toPerson = (kind: NoticeKind, person: string, about: string): Telling => ({
  kind,
  for: { who: 'person', person },
  about,
});
