import type { DealId } from '../ids.ts';
import type { Shape } from '../shape.ts';
import { type EventKind, plain, strong } from './event.ts';

/** Another deal, named as it was called then. */
export interface DealLink {
  readonly deal: DealId;
  readonly name: string;
}

const LINK: Shape = { is: 'parts', of: { deal: { is: 'id' }, name: { is: 'name' } } };

const textErased: EventKind<'text_erased', { readonly seq: number }> = {
  kind: 'text_erased',
  shape: { seq: { is: 'count' } },
  says: ({ seq }) => [strong('Text erased'), plain(` of entry ${seq}`)],
};

const voided: EventKind<'voided', { readonly duplicateOf?: DealLink }> = {
  kind: 'voided',
  shape: { duplicateOf: { is: 'maybe', of: LINK } },
  says: ({ duplicateOf }) =>
    duplicateOf
      ? [strong('Voided'), plain(': a duplicate of '), strong(duplicateOf.name)]
      : [strong('Voided'), plain(': out of all measures')],
};

const merged: EventKind<'merged', { readonly duplicate: DealLink }> = {
  kind: 'merged',
  shape: { duplicate: LINK },
  says: ({ duplicate }) => [strong('Merged'), plain(' into this: '), strong(duplicate.name)],
};

export const RECORD_EVENTS = [textErased, voided, merged] as const;
