import { canonicalText } from '../canonicalText.ts';
import { type Criterion, conditionsOf, type Operand, termsOf } from '../criteria/criterion.ts';
import { allOf, contrary, isTrue } from '../criteria/satisfy/claim.ts';
import type { ProcessEdit } from '../processes/edit.ts';
import { passed } from '../requirements/itemParts.ts';
import type { GateItem } from '../requirements/kinds.ts';
import { substanceOf } from '../requirements/substance.ts';
import type { Asker } from './asker.ts';
import { fewest } from './contradictions.ts';
import { gatesOf, placeOfItem } from './gates.ts';
import { relatedParts } from './related.ts';
import type { Design, DesignRemedy, Remark } from './remark.ts';
import { askedIn, listed, quoted } from './words.ts';

/** Requirements that ask nothing: always true, never asked, or asked already by others. What cannot be met is left out. */
export function implications(design: Design, ask: Asker, unmeetable: ReadonlySet<string>): readonly Remark[] {
  const remarks: Remark[] = [];
  const settled = new Set(unmeetable);
  // Of two that ask the same the later one is told.
  for (const { items, standing } of gatesOf(design.document)) {
    if (!ask.goesOn()) break;
    const partOf = new Map(
      relatedParts([...items, ...standing]).flatMap((part) => part.map((item) => [item.id, part] as const)),
    );
    for (const item of items.toReversed()) {
      if (!ask.goesOn()) break;
      if (settled.has(item.id) || item.at === 'checklist') continue;
      const beside = (partOf.get(item.id) ?? []).filter(({ id }) => id !== item.id && !settled.has(id));
      const remark = emptyRemark(item, design, ask) ?? impliedRemark(item, beside, design, ask);
      if (!remark) continue;
      settled.add(item.id);
      remarks.push(remark);
    }
  }
  return remarks;
}

/** Always true once filled, or never asked. */
function emptyRemark(item: GateItem, design: Design, ask: Asker): Remark | null {
  const place = placeOfItem(item, design.document);
  const remedy = takeOut(item, design);
  const { appliesWhen } = item;
  const what = quoted(item, design);
  if (appliesWhen && ask.about(`whether ${what} is ever asked`, () => isTrue(appliesWhen), place).is === 'impossible')
    return {
      key: `never asked ${item.id}`,
      weight: 'warning',
      place,
      says: `${what} is asked of no deal: none can be as it says for whom it is.`,
      witness: null,
      remedy,
    };
  if (item.kind !== 'criterion') return null;
  const filled = mustBeFilled(item.criterion);
  if (filled.length === 0) return null;
  const isFilled = filled.map((left) => isTrue({ kind: 'set', left }));
  const answer = ask.about(
    `whether ${what} can be false`,
    () => allOf(...isFilled, contrary(isTrue(item.criterion))),
    place,
  );
  if (answer.is !== 'impossible') return null;
  return {
    key: `always true ${item.id}`,
    weight: 'warning',
    place,
    says: `${what} is always true once filled, so it asks no more than that.`,
    witness: null,
    remedy,
  };
}

/** What a criterion compares, and does not itself ask whether it is filled. */
function mustBeFilled(criterion: Criterion): readonly Operand[] {
  const isAboutFilling = ({ kind }: { readonly kind: string }): boolean => kind === 'set' || kind === 'unset';
  const leaves = conditionsOf(criterion);
  const asked = new Set(leaves.filter(isAboutFilling).map(({ left }) => canonicalText(left)));
  const compared = leaves
    .filter((leaf) => !isAboutFilling(leaf))
    .flatMap(termsOf)
    .filter((term): term is Operand => term.of !== 'value' && term.of !== 'today');
  return compared.filter((operand) => !asked.has(canonicalText(operand)));
}

/** Follows from others of the gate, or from what must still be so from before. */
function impliedRemark(item: GateItem, beside: readonly GateItem[], design: Design, ask: Asker): Remark | null {
  const premises = beside.filter((other) => isAsStrong(other, item));
  const what = quoted(item, design);
  const place = placeOfItem(item, design.document);
  const isImplied = (by: readonly GateItem[]): boolean =>
    ask.about(
      `whether ${what} follows from other requirements`,
      () => allOf(...by.map(passed), contrary(passed(item))),
      place,
    ).is === 'impossible';
  if (premises.length === 0 || !isImplied(premises)) return null;
  const by = fewest(premises, isImplied);
  if (by.length === 0) return null;
  const [only] = by;
  const remedy = takeOut(item, design);
  const isTwice = only && by.length === 1 && asks(only) === asks(item);
  if (isTwice && only.at === 'leave' && item.at === 'enter')
    return {
      key: `asked twice ${only.id} ${item.id}`,
      weight: 'warning',
      place,
      says: `${what} is asked ${askedIn(only, design)} and again ${askedIn(item, design)}.`,
      witness: null,
      remedy,
    };
  const others = listed(by.map((other) => `${quoted(other, design)}, asked ${askedIn(other, design)}`));
  return {
    key: `implied ${[...by, item].map(({ id }) => id).join(' ')}`,
    weight: 'warning',
    place,
    says: isTwice
      ? `${what} is asked already ${askedIn(only, design)}.`
      : `${what} asks nothing more: it follows from ${others}.`,
    witness: null,
    remedy,
  };
}

/** Whether a requirement stops what another would stop, and binds as long. */
const isAsStrong = (premise: GateItem, item: GateItem): boolean =>
  (premise.level === 'hold' || item.level === 'flag') && (premise.binds === 'must_stay' || item.binds === 'at_move');

/** What an item asks, wherever it is asked. */
const asks = ({ id: _id, stage: _stage, at: _at, ...item }: GateItem): string => substanceOf(item.kind, item);

function takeOut(item: GateItem, { document }: Design): DesignRemedy {
  const { stage, outcome } = placeOfItem(item, document);
  const edit: ProcessEdit =
    stage && (item.at === 'enter' || item.at === 'leave')
      ? { kind: 'remove_requirement', place: { at: item.at, stage }, requirement: item.id }
      : { kind: 'remove_requirement', place: { at: 'outcome', outcome: outcome ?? '' }, requirement: item.id };
  return { name: 'Take it out', edits: [edit] };
}
