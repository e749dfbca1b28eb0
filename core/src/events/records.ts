import type { Shape } from '../shape.ts';
import { type EventKind, plain, strong } from './event.ts';

/** Another deal, named as it was called then. */
export interface DealLink {
  readonly deal: string;
  readonly name: string;
}

const LINK: Shape = { is: 'parts', of: { deal: { is: 'id' }, name: { is: 'name' } } };

export const textErased: EventKind<'text_erased', { readonly seq: number }> = {
  kind: 'text_erased',
  shape: { seq: { is: 'count' } },
  says: ({ seq }) => [strong('Text erased'), plain(` of entry ${seq}`)],
};

export const voided: EventKind<'voided', { readonly duplicateOf?: DealLink }> = {
  kind: 'voided',
  shape: { duplicateOf: { is: 'maybe', of: LINK } },
  says: ({ duplicateOf }) =>
    duplicateOf
      ? [strong('Voided'), plain(': a duplicate of '), strong(duplicateOf.name)]
      : [strong('Voided'), plain(': out of all measures')],
};

export const merged: EventKind<'merged', { readonly duplicate: DealLink }> = {
  kind: 'merged',
  shape: { duplicate: LINK },
  says: ({ duplicate }) => [strong('Merged'), plain(' into this: '), strong(duplicate.name)],
};
