import { isTrue } from '../criteria/satisfy/claim.ts';
import { isEmpty } from '../facts/value.ts';
import { type ItemBase, isOpen } from './item.ts';
import type { RequirementKind } from './kind.ts';
import { lackingIn, provide } from './lacking.ts';

interface FieldItem extends ItemBase {
  readonly kind: 'field';
  readonly field: string;
}

/** A field has a value. */
export const fieldKind: RequirementKind<FieldItem, 'requirement', 'field'> = {
  kind: 'field',
  written: 'requirement',
  finding: { kind: 'field', name: 'Field missing' },
  shape: { field: { is: 'key' } },
  wording: [],
  needs: () => ['values'],
  judge: ({ field }, { values }) => ({ state: isEmpty(values[field]) ? 'missing' : 'met', explanation: null }),
  remedy: ({ field }, _judged, facts, catalogue) => provide(lackingIn([field], facts, catalogue), [field], catalogue),
  asks: ({ field }, catalogue) => [
    { text: catalogue.get(field)?.name ?? 'A field that is gone', strong: true },
    { text: ' is filled', strong: false },
  ],
  actual: (_item, { state }) => (isOpen(state) ? 'not filled' : null),
  compile: ({ field }, _catalogue, columns) => ({ as: 'filled', column: columns.of(field) }),
  turns: () => [],
  reads: ({ field }) => [field],
  criteria: () => [],
  met: ({ field }) => isTrue({ kind: 'set', left: { of: 'field', field } }),
  problems({ field }, catalogue, pointer) {
    if (catalogue.has(field)) return [];
    const isGone = field !== '';
    const detail = isGone ? 'This field is no longer in the catalogue. Choose another.' : 'Choose the field.';
    return [{ pointer: `${pointer}/field`, detail }];
  },
};
