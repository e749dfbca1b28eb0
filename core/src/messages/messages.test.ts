import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { catalogueOf } from '../facts/field.ts';
import { CATALOGUE, FIELDS } from '../testing/builders.ts';
import { afterFailure, isHeaderText, isMailAddress, MOST_TRIES } from './delivery.ts';
import { type MergeFacts, mergeTemplate, templateProblems, unfilledFields } from './template.ts';

const facts: MergeFacts = {
  catalogue: CATALOGUE,
  plain: { 'deal.name': 'Palm house', 'contact.name': 'Ada', 'owner.name': null },
  values: { value: { minor: 51_000_000, currency: 'GBP' }, area: 480 },
  nameOf: () => undefined,
};

describe('a template', () => {
  it('is merged with the deal, its amounts and units as people read them', () => {
    expect(mergeTemplate('Dear {contact.name}, {deal.name}: {deal.value}, {deal.area}. {{x}', facts)).toEqual({
      ok: true,
      value: { text: expect.stringMatching(/^Dear Ada, Palm house: £510,000, 480\D*\. \{x}$/), missing: [] },
    });
  });

  it('never hides a hole: what is missing is named, each once, and stands in the text as a field', () => {
    const merged = mergeTemplate('{owner.name} {owner.name} {deal.close_date} {deal.name}', facts);
    expect(merged).toEqual({
      ok: true,
      value: {
        text: '{owner.name} {owner.name} {deal.close_date} Palm house',
        missing: ['name of the owner', 'close date of the deal'],
      },
    });
    expect(merged.ok && unfilledFields(merged.value.text)).toEqual(['owner.name', 'deal.close_date']);
    expect(unfilledFields('{x} {deal} Palm house')).toEqual([]);
  });

  it('names a field that is not there, one of another holder, and a brace without an end', () => {
    const codes = (text: string) => templateProblems(text, catalogueOf(FIELDS)).map(({ code }) => code);
    expect(codes('{deal.nothing} {customer.area} {contact} {deal.name}')).toEqual([
      'unknown_field',
      'unknown_field',
      'unknown_field',
    ]);
    expect(codes('{deal.name')).toEqual(['open_brace']);
    expect(codes('{deal.name}'.repeat(101))).toEqual(['too_many_fields']);
    expect(codes('{{ no field')).toEqual([]);
  });

  it('puts values in as they are, whatever they hold: nothing in them is read as a field', () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1 }), (name) => {
        const merged = mergeTemplate('<{deal.name}>', { ...facts, plain: { 'deal.name': name } });
        expect(merged).toEqual({ ok: true, value: { text: `<${name}>`, missing: [] } });
      }),
    );
  });

  it('makes no message without end', () => {
    const plain = { 'deal.name': 'x'.repeat(2_000) };
    expect(mergeTemplate('{deal.name}'.repeat(60), { ...facts, plain })).toEqual({
      ok: false,
      error: { code: 'too_long' },
    });
  });
});

describe('handing a message over', () => {
  it('is tried after 1, 2, 4, … minutes, and given up after the eighth try (S62)', () => {
    const waits = Array.from({ length: MOST_TRIES }, (_one, place) => afterFailure(place + 1, 0));
    expect(waits.map(({ nextTryAt }) => nextTryAt && nextTryAt / 60_000)).toEqual([1, 2, 4, 8, 16, 32, 64, null]);
    expect(waits.at(-1)?.state).toBe('given_up');
  });

  it('takes one address and no more, and no header that ends its line', () => {
    for (const good of ['ada@example.org', 'ada.l+x@mail.example.org', 'ä@exämple.org'])
      expect(isMailAddress(good)).toBe(true);
    for (const bad of ['ada', 'a@b@c', 'a@b\r\nBcc: x@y', 'a@b,c@d', 'Ada <a@b>', 'a b@c', 'a..b@c', '@c', ''])
      expect(isMailAddress(bad)).toBe(false);
    expect(isHeaderText('Your offer')).toBe(true);
    expect(isHeaderText('Your offer\r\nBcc: x@y')).toBe(false);
  });
});
