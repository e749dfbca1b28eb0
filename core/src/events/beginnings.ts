import type { StageId } from '../ids.ts';
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

export const BEGINNING_EVENTS = [created, imported, reopened] as const;
