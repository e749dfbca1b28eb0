import { DEAL_LINK, type DealLink } from './dealLink.ts';
import { type EventKind, plain, strong } from './event.ts';

const textErased: EventKind<'text_erased', { readonly seq: number }> = {
  kind: 'text_erased',
  shape: { seq: { is: 'count' } },
  says: ({ seq }) => [strong('Text erased'), plain(` of entry ${seq}`)],
};

const voided: EventKind<'voided', { readonly duplicateOf?: DealLink }> = {
  kind: 'voided',
  shape: { duplicateOf: { is: 'maybe', of: DEAL_LINK } },
  says: ({ duplicateOf }) =>
    duplicateOf
      ? [strong('Voided'), plain(': a duplicate of '), strong(duplicateOf.name)]
      : [strong('Voided'), plain(': out of all measures')],
};

const merged: EventKind<'merged', { readonly duplicate: DealLink }> = {
  kind: 'merged',
  shape: { duplicate: DEAL_LINK },
  says: ({ duplicate }) => [strong('Merged'), plain(' into this: '), strong(duplicate.name)],
};

export const RECORD_EVENTS = [textErased, voided, merged] as const;
