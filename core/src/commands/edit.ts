import { canonicalText } from '../canonicalText.ts';
import type { Deal } from '../deals/deal.ts';
import { recalculated } from '../deals/exchange.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import type { StepNamed } from '../events/edits.ts';
import { checkValue, describeValueProblem, type FactValue, normaliseValue } from '../facts/value.ts';
import { failed, ok, type Result } from '../result.ts';
import { changeBy, journal, revised, type Step, type Stepped } from './change.ts';

/** A field's new value, with the value the writer saw: edits of different fields merge (S34). */
export interface FieldEdit {
  readonly field: string;
  readonly saw: FactValue;
  readonly value: FactValue;
}

export type EditDealProblem =
  | { readonly code: 'closed' }
  | { readonly code: 'no_such_field'; readonly field: string }
  | { readonly code: 'bad_value'; readonly field: string; readonly detail: string }
  | { readonly code: 'changed_meanwhile'; readonly field: string; readonly value: FactValue };

/**
 * The deal with the fields changed. Errors, per field and all at once: unknown field, a value that does not fit, a
 * value that someone else changed since it was seen; or the deal is closed.
 */
export const editDeal = (
  deal: Deal,
  setting: Setting,
  edits: readonly FieldEdit[],
  asked: Moment,
): Result<Change, readonly EditDealProblem[]> => changeBy(deal, setting, asked, editStep(setting, edits));

/** The same as a step; told as made in a guided step, where it was. */
export const editStep =
  (setting: Setting, edits: readonly FieldEdit[], madeIn?: StepNamed): Step<readonly EditDealProblem[]> =>
  (deal, moment) => {
    if (deal.status.state !== 'open') return failed([{ code: 'closed' }]);
    const problems = edits.flatMap((edit) => editProblem(deal, setting, edit) ?? []);
    return problems.length > 0 ? failed(problems) : ok(writeValues(deal, setting, edits, moment, madeIn));
  };

function editProblem(deal: Deal, setting: Setting, edit: FieldEdit): EditDealProblem | null {
  const field = setting.catalogue.get(edit.field);
  if (field?.holder !== 'deal') return { code: 'no_such_field', field: edit.field };
  const present = deal.values[edit.field] ?? null;
  const problem = checkValue(field, edit.value, present);
  if (problem) return { code: 'bad_value', field: edit.field, detail: describeValueProblem(problem) };
  const stale = !same(present, edit.saw) && !same(present, normaliseValue(edit.value));
  return stale ? { code: 'changed_meanwhile', field: edit.field, value: present } : null;
}

const same = (a: FactValue | undefined, b: FactValue | undefined): boolean =>
  canonicalText(a ?? null) === canonicalText(normaliseValue(b ?? null));

function writeValues(
  deal: Deal,
  setting: Setting,
  edits: readonly FieldEdit[],
  moment: Moment,
  madeIn: StepNamed | undefined,
): Stepped {
  const written = Object.fromEntries(edits.map(({ field, value }) => [field, normaliseValue(value)]));
  const edited = recalculated({ ...deal, values: { ...deal.values, ...written } }, setting);
  const { values } = edited;
  const changes = Object.keys(values)
    .filter((field) => !same(deal.values[field], values[field]))
    .map((field) => ({ field, before: deal.values[field] ?? null, after: values[field] ?? null }));
  if (changes.length === 0) return { deal, records: [] };
  const moved = changes.some(({ field, before }) => field === 'close_date' && before !== null) ? 1 : 0;
  const after = revised({ ...edited, closeDateMoves: deal.closeDateMoves + moved });
  return {
    deal: after,
    records: [journal(after, moment, { kind: 'edited', changes, ...(madeIn ? { step: madeIn } : {}) })],
  };
}
