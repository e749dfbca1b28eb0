import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { canonicalText } from '../canonicalText.ts';
import type { StageId } from '../ids.ts';
import { CATALOGUE, must, needs } from '../testing/builders.ts';
import { checkDocument } from './check.ts';
import { askedBy, diffDocuments, touchesGates } from './diff.ts';
import { newDocument, type ProcessDocument, RULES } from './document.ts';
import { applyEdit, type ProcessEdit } from './edit.ts';

const stageId = fc.constantFrom('first', 's1', 's2', 's3').map((id) => id as StageId);
const name = fc.constantFrom('Brief', 'brief ', 'Survey', 'Design', '');
const field = fc.constantFrom('area', 'crop', 'notes', 'paid');
const requirement = fc
  .tuple(fc.constantFrom('r1', 'r2', 'r3'), field, fc.constantFrom('hold' as const, 'flag' as const))
  .map(([id, asked, level]) => needs(id, asked, { level }));
const place = fc.oneof(
  fc.record({ at: fc.constantFrom('enter' as const, 'leave' as const), stage: stageId }),
  fc.record({ at: fc.constant('outcome' as const), outcome: fc.constantFrom('won', 'lost') }),
);
const item = fc.record({
  id: fc.constantFrom('i1', 'i2'),
  text: fc.constantFrom('Called', 'Seen'),
  need: fc.constantFrom('must' as const, 'optional' as const),
  level: fc.constantFrom('hold' as const, 'flag' as const),
  afterReturn: fc.constantFrom('keep' as const, 'again' as const),
});
const edit: fc.Arbitrary<ProcessEdit> = fc.oneof(
  fc.record({ kind: fc.constant('add_stage' as const), id: stageId, name, place: fc.integer({ min: -2, max: 5 }) }),
  fc.record({
    kind: fc.constant('change_stage' as const),
    stage: stageId,
    change: fc.record({ name, chance: fc.integer({ min: 0, max: 100 }) }, { requiredKeys: [] }),
  }),
  fc.record({ kind: fc.constant('move_stage' as const), stage: stageId, place: fc.integer({ min: -2, max: 5 }) }),
  fc.record({ kind: fc.constant('remove_stage' as const), stage: stageId }),
  fc.record({ kind: fc.constant('put_requirement' as const), place, requirement }),
  fc.record({
    kind: fc.constant('remove_requirement' as const),
    place,
    requirement: fc.constantFrom('r1', 'r2', 'r3'),
  }),
  fc.record({
    kind: fc.constant('move_requirement' as const),
    place,
    requirement: fc.constantFrom('r1', 'r2', 'r3'),
    to: fc.integer({ min: -2, max: 5 }),
  }),
  fc.record({ kind: fc.constant('put_item' as const), stage: stageId, item }),
  fc.record({
    kind: fc.constant('move_item' as const),
    stage: stageId,
    item: fc.constantFrom('i1', 'i2'),
    to: fc.integer({ min: -2, max: 5 }),
  }),
  fc.record({ kind: fc.constant('remove_item' as const), stage: stageId, item: fc.constantFrom('i1', 'i2') }),
  fc.record({
    kind: fc.constant('set_rules' as const),
    skips: fc.constantFrom(...RULES),
    returns: fc.constantFrom(...RULES),
  }),
  fc.record({ kind: fc.constant('set_purpose' as const), purpose: fc.string() }),
);

const START = newDocument('Test', 'deal', 'GBP', { id: 'first' as StageId, name: 'First' });
const edited = (edits: readonly ProcessEdit[], from: ProcessDocument = START): ProcessDocument =>
  edits.reduce((document, change) => {
    const result = applyEdit(document, change);
    return result.ok && !isAddedTwice(document, change) && !isAskedTwice(result.value, change)
      ? result.value
      : document;
  }, from);
/** It gives every new requirement one too: in two places at once the same id would hide a difference. */
const isAskedTwice = (document: ProcessDocument, change: ProcessEdit): boolean =>
  change.kind === 'put_requirement' && canonicalText(document).split(`"id":"${change.requirement.id}"`).length > 2;
/** The designer gives every new stage an id of its own. */
const isAddedTwice = (document: ProcessDocument, change: ProcessEdit): boolean =>
  change.kind === 'add_stage' && document.stages.some(({ id }) => id === change.id);
const edits = fc.array(edit, { maxLength: 25 });

describe('a document after any edits', () => {
  it('has stages with names and ids of their own, and one at least', () => {
    fc.assert(
      fc.property(edits, (changes) => {
        const { stages } = edited(changes);
        expect(stages.length).toBeGreaterThan(0);
        expect(new Set(stages.map(({ id }) => id)).size).toBe(stages.length);
        const names = stages.map((one) => one.name.trim().toLowerCase());
        expect(new Set(names).size).toBe(names.length);
        expect(names).not.toContain('');
      }),
    );
  });

  it('can be published, but for what is asked in two places by one id', () => {
    fc.assert(
      fc.property(edits, (changes) => {
        for (const { pointer, detail } of checkDocument(edited(changes), CATALOGUE, () => undefined)) {
          expect(pointer).toMatch(/\/id$/);
          expect(detail).toMatch(/is used twice/);
        }
      }),
    );
  });

  it('is left as it was by an edit that is refused', () => {
    fc.assert(
      fc.property(edits, edit, (changes, last) => {
        const document = edited(changes);
        const before = canonicalText(document);
        applyEdit(document, last);
        expect(canonicalText(document)).toBe(before);
      }),
    );
  });

  it('loses nothing of a stage that is moved or renamed', () => {
    fc.assert(
      fc.property(edits, fc.integer({ min: 0, max: 4 }), (changes, to) => {
        const document = edited(changes);
        const [moved] = document.stages;
        if (!moved) throw new Error('No stage');
        const after = must(applyEdit(document, { kind: 'move_stage', stage: moved.id, place: to }));
        expect(after.stages.find(({ id }) => id === moved.id)).toEqual(moved);
        expect(new Set(after.stages.map(({ id }) => id))).toEqual(new Set(document.stages.map(({ id }) => id)));
      }),
    );
  });
});

describe('what differs', () => {
  it('between a document and itself, however it was stored, is nothing', () => {
    fc.assert(
      fc.property(edits, (changes) => {
        const document = edited(changes);
        expect(diffDocuments(document, JSON.parse(canonicalText(document)))).toEqual([]);
      }),
    );
  });

  it('is told wherever two documents are not the same', () => {
    fc.assert(
      fc.property(edits, edits, (first, second) => {
        const [before, after] = [edited(first), edited(second)];
        const isSame = canonicalText(before) === canonicalText(after);
        expect(diffDocuments(before, after).length === 0).toBe(isSame);
      }),
      { numRuns: 300 },
    );
  });

  it('touches a gate exactly where something else is asked, or the stages or rules are others', () => {
    fc.assert(
      fc.property(edits, edits, (first, second) => {
        const [before, after] = [edited(first), edited(second)];
        const asked = (document: ProcessDocument) =>
          canonicalText([
            [...askedBy(document)].map(([id, { substance }]) => [id, substance]).sort(),
            document.stages.map(({ id }) => id),
            document.skips,
            document.returns,
          ]);
        expect(touchesGates(diffDocuments(before, after))).toBe(asked(before) !== asked(after));
      }),
      { numRuns: 300 },
    );
  });

  it('to a first version is its stages', () => {
    expect(diffDocuments(null, START)).toEqual([{ kind: 'stage_added', stage: 'first', name: 'First' }]);
  });
});

describe('canonical text', () => {
  it('is the same for the same content, whatever the order of its keys, and reads back as it was', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        const turned = JSON.parse(JSON.stringify(value), (_key, part) =>
          part && typeof part === 'object' && !Array.isArray(part)
            ? Object.fromEntries(Object.entries(part).reverse())
            : part,
        );
        expect(canonicalText(turned)).toBe(canonicalText(value));
        expect(JSON.parse(canonicalText(value))).toEqual(JSON.parse(JSON.stringify(value)));
      }),
    );
  });
});
