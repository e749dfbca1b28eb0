import type { Deal } from '../deals/deal.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import type { JournalBody } from '../events/kinds.ts';
import type { FactValue } from '../facts/value.ts';
import { ok, type Result } from '../result.ts';
import { andThen } from './andThen.ts';
import { changeBy, type Step } from './change.ts';
import { editStep, type FieldEdit } from './edit.ts';
import { renameStep } from './rename.ts';
import { canTakeBack, takeBackStep } from './takeBack.ts';

type BodyOf<Kind extends JournalBody['kind']> = Extract<JournalBody, { kind: Kind }>;

/** How what an entry tells of is undone, for what an import writes into the journal of a deal that is known. */
const UNDOING: {
  readonly [Kind in JournalBody['kind']]?: (body: BodyOf<Kind>, setting: Setting, text: string) => Step<unknown>;
} = {
  edited:
    ({ changes }, setting) =>
    (deal, moment) =>
      editStep(setting, editsBack(deal, setting, changes))(deal, moment),
  renamed: ({ before }) => renameStep(before),
  moved: (_body, setting, text) => (deal, moment) => {
    const step = canTakeBack(deal, setting, { id: moment.by, rank: 'manager' }, moment.happenedAt);
    return step.ok ? ok(takeBackStep(setting, step.value, text)(deal, moment)) : step;
  },
};

const editsBack = (deal: Deal, setting: Setting, changes: BodyOf<'edited'>['changes']): readonly FieldEdit[] =>
  changes
    .filter(({ field }) => setting.catalogue.get(field)?.type !== 'calculated')
    .map(({ field, before }) => ({ field, saw: deal.values[field] ?? null, value: before as FactValue }));

/**
 * The deal with an import's entries undone as one change, the newest first; the text says why in its journal. Entries that
 * change nothing which is undone this way are passed over. Errors: those of the step that cannot be undone, such as a move
 * that cannot be taken back any more.
 */
export function undoEntries(
  deal: Deal,
  setting: Setting,
  bodies: readonly JournalBody[],
  moment: Moment,
  text: string,
): Result<Change, unknown> {
  const nothing: Step<unknown> = (before) => ok({ deal: before, records: [] });
  const undone = bodies.reduce<Step<unknown>>((before, body) => {
    const undo = UNDOING[body.kind] as
      | ((body: JournalBody, setting: Setting, text: string) => Step<unknown>)
      | undefined;
    return undo ? andThen(before, undo(body, setting, text)) : before;
  }, nothing);
  return changeBy(deal, setting, moment, undone);
}
