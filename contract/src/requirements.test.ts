import {
  checkDocument,
  compileGate,
  describeActual,
  describeFinding,
  describeItem,
  diffDocuments,
  FINDING_NAMES,
  type FindingKind,
  fieldsAsked,
  type GateFacts,
  type ItemBase,
  itemsToEnter,
  judgeGate,
  type ProcessDocument,
  type Requirement,
  type RequirementKind,
  recordActivity,
  touchesGates,
} from '@ladder/core';
import {
  at,
  CATALOGUE,
  DAY,
  dealIn,
  documentOf,
  factsOf,
  NOW,
  settingOf,
  stage,
} from '@ladder/core/testing/builders.ts';
import { describe, expect, it, vi } from 'vitest';
import { openApiDocument } from './index.ts';
import { processes } from './processes.ts';
import { parse } from './validate.ts';

/*
 * A kind of requirement that the program does not have is put into the list, and nothing else is told of it: judging,
 * words, compiling, findings, differences, problems and the API have to follow from the kind alone.
 */

interface OfferItem extends ItemBase {
  readonly kind: 'offer_valid';
  readonly until: string;
  readonly note: string;
}

vi.mock('@ladder/core/requirements/kinds.ts', async (original) => {
  const { REQUIREMENT_KINDS } = await original<{ REQUIREMENT_KINDS: readonly RequirementKind[] }>();
  const isValid = ({ until }: OfferItem, { at }: GateFacts): boolean => at < Date.parse(until);
  const offerValid: RequirementKind<OfferItem> = {
    kind: 'offer_valid',
    written: 'requirement',
    finding: { kind: 'offer_ended', name: 'Offer ended' },
    shape: { until: { is: 'words', most: 30 }, note: { is: 'words', most: 200 } },
    wording: ['note'],
    needs: () => [],
    judge: (item, facts) => ({ state: isValid(item, facts) ? 'met' : 'unmet', explanation: null }),
    remedy: () => ({ kind: 'decide' }),
    asks: ({ until }) => [{ text: `The offer is valid until ${until}`, strong: false }],
    actual: (_item, { state }) => (state === 'met' ? 'valid' : 'it has ended'),
    compile: (item) => ({ as: 'test', test: ({ facts }) => isValid(item, facts as GateFacts) }),
    turns: ({ until }) => [Date.parse(until)],
    reads: () => ['source'],
    criteria: () => [],
    met: ({ id }) => ({ kind: 'deed', deed: `offer ${id}`, done: true }),
    problems: ({ until }, _catalogue, pointer) =>
      Number.isNaN(Date.parse(until)) ? [{ pointer: `${pointer}/until`, detail: 'Say until when.' }] : [],
  };
  return { REQUIREMENT_KINDS: [...REQUIREMENT_KINDS, offerValid] };
});

/** A quarter past three in the afternoon of the day after. */
const END = NOW + DAY + 5.25 * 3_600_000;
const offer = (more: Partial<OfferItem> = {}): Requirement =>
  ({
    id: 'offer',
    kind: 'offer_valid',
    level: 'hold',
    binds: 'must_stay',
    until: new Date(END).toISOString(),
    note: '',
    ...more,
  }) as unknown as Requirement;
const documentAsking = (requirement: Requirement): ProcessDocument =>
  documentOf([stage('a', { enter: [requirement] }), stage('b')]);
const document = documentAsking(offer());
const setting = settingOf(document);
const items = itemsToEnter(document.stages[0] ?? stage('none')).map((item) => ({ ...item, passedOver: false }));
const facts = (instant: number) => factsOf({}, { at: instant });
const nameOf = () => undefined;

describe('a kind of requirement that is only in the list', () => {
  it('is judged, told, and can be put right', () => {
    const [met, ended] = [judgeGate(items, facts(NOW), CATALOGUE), judgeGate(items, facts(END), CATALOGUE)];
    expect([met.answer, ended.answer]).toEqual(['passes', 'holds']);
    expect(ended.items[0]).toMatchObject({ state: 'unmet', remedy: { kind: 'decide' } });
    const words = ended.items.map((verdict) => [
      describeItem(verdict.item, CATALOGUE, nameOf).map(({ text }) => text),
      describeActual(verdict, CATALOGUE, nameOf),
    ]);
    expect(words).toEqual([[['The offer is valid until 2026-11-25T15:15:00.000Z'], 'it has ended']]);
  });

  it('is waived, and asked where it applies only, as every kind is', () => {
    expect(judgeGate(items, { ...facts(END), waived: new Set(['offer']) }, CATALOGUE).answer).toBe('passes');
    const appliesWhen = { kind: 'set', left: { of: 'field', field: 'crop' } } as const;
    const some = items.map((item) => ({ ...item, appliesWhen }));
    expect(judgeGate(some, facts(END), CATALOGUE).items[0]?.state).toBe('not_applicable');
  });

  it('compiles to the same answers', () => {
    const gate = compileGate(items, CATALOGUE);
    for (const instant of [NOW, END - 1, END, END + DAY])
      expect(gate.answer(facts(instant))).toBe(judgeGate(items, facts(instant), CATALOGUE).answer);
  });

  it('is found at the instant at which it turns, under its own name, and told', () => {
    const deal = dealIn(setting);
    expect(deal.findings).toMatchObject([{ kind: 'offer_ended', requirement: 'offer', openedAt: END }]);
    expect(FINDING_NAMES['offer_ended' as FindingKind]).toBe('Offer ended');
    const [finding] = recordActivity(deal, setting, 'note', 'Rang.', at(END + DAY)).deal.findings;
    expect(finding).toMatchObject({ openedAt: END });
    expect(finding && describeFinding(finding, deal, setting, END, nameOf).actual).toBe('it has ended');
  });

  it('is compared between versions: words alone touch no gate', () => {
    const changed = (requirement: Requirement) => diffDocuments(document, documentAsking(requirement));
    expect(changed(offer({ note: 'Ask the office' }))).toMatchObject([{ kind: 'requirement_reworded' }]);
    expect(touchesGates(changed(offer({ note: 'Ask the office' })))).toBe(false);
    expect(changed(offer({ until: '2027-01-01T00:00:00Z' }))).toMatchObject([{ kind: 'requirement_changed' }]);
  });

  it('says which fields it reads, and what is wrong with it in a document', () => {
    expect(fieldsAsked(document)).toContain('source');
    expect(checkDocument(documentAsking(offer({ until: 'soon' })), CATALOGUE, () => undefined)).toEqual([
      { pointer: '/stages/0/enter/0/until', detail: 'Say until when.' },
    ]);
  });

  it('is read from requests, and stands in the OpenAPI document', () => {
    expect(parse(processes.document, document, 'body').ok).toBe(true);
    const without = { ...offer(), until: undefined } as unknown as Requirement;
    expect(parse(processes.document, documentAsking(without), 'body')).toMatchObject({
      problems: [{ pointer: '/stages/0/enter/0/until' }],
    });
    const text = JSON.stringify(openApiDocument('test'));
    expect(text).toContain('"kind":{"enum":["offer_valid"]},"until":{"type":"string","minLength":0,"maxLength":30}');
    expect(text).toMatch(/"decision"[^\]]*"offer_valid"/);
    expect(text).toContain('"offer_ended"');
  });
});
