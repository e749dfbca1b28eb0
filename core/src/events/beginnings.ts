import type { StageId } from '../ids.ts';
import { DEAL_LINK, type DealLink } from './dealLink.ts';
import { type EventKind, type EventWords, plain, strong } from './event.ts';
import { stageWords } from './stageWords.ts';

interface Beginning {
  readonly stage: StageId;
  readonly name: string;
}

const beginning = <Kind extends string>(kind: Kind, word: string): EventKind<Kind, Beginning> => ({
  kind,
  shape: { stage: { is: 'key' }, name: { is: 'name' } },
  says: ({ stage }: Beginning, words: EventWords) => [plain(word), strong(stageWords(stage, words))],
});

const created = beginning('created', 'Begun in ');
const imported = beginning('imported', 'Imported into ');

/** Opened again; why stands apart as the entry's free text. */
const reopened: EventKind<'reopened', { readonly stage: StageId }> = {
  kind: 'reopened',
  shape: { stage: { is: 'key' } },
  says: ({ stage }, words) => [strong('Reopened'), plain(' in '), strong(stageWords(stage, words))],
};

const begunFrom: EventKind<'begun_from', { readonly from: DealLink }> = {
  kind: 'begun_from',
  shape: { from: DEAL_LINK },
  says: ({ from }) => [plain('Begun from '), strong(from.name), plain(', which had closed')],
};

const wentOn: EventKind<'went_on', { readonly next: DealLink }> = {
  kind: 'went_on',
  shape: { next: DEAL_LINK },
  says: ({ next }) => [plain('Went on as '), strong(next.name)],
};

export const BEGINNING_EVENTS = [created, imported, reopened, begunFrom, wentOn] as const;
