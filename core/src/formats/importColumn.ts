import type { Field } from '../facts/field.ts';
import { foldText } from '../facts/value.ts';
import { parseDay } from '../time/day.ts';

/** What a column of an imported file can be: a field, or one of these facts about the deal itself. */
export const DEAL_COLUMNS = ['external_id', 'name', 'stage', 'created', 'entered_stage', 'last_activity'] as const;
export type DealColumn = (typeof DEAL_COLUMNS)[number];

export type ColumnTarget =
  | { readonly to: 'deal'; readonly column: DealColumn }
  | { readonly to: 'field'; readonly field: string }
  | { readonly to: 'nothing' };

const NAMES: Readonly<Record<DealColumn, readonly string[]>> = {
  external_id: ['external id', 'id', 'reference', 'ref', 'deal id', 'number'],
  name: ['name', 'deal', 'deal name', 'title', 'opportunity'],
  stage: ['stage', 'phase', 'step', 'status'],
  created: ['created', 'created on', 'date created', 'opened', 'start date'],
  entered_stage: ['entered stage', 'in stage since', 'stage since', 'stage date', 'entered'],
  last_activity: ['last activity', 'last contact', 'last touched'],
};

const FIELD_NAMES: Readonly<Record<string, readonly string[]>> = {
  customer: ['customer', 'company', 'account', 'client', 'organisation'],
  contact: ['contact', 'contact name', 'person'],
  value: ['value', 'amount', 'deal value', 'price', 'total'],
  close_date: ['close date', 'closing date', 'expected close', 'due'],
  owner: ['owner', 'seller', 'sales person', 'assigned to', 'email of owner'],
  source: ['source', 'lead source', 'origin'],
  next_action: ['next action', 'next step', 'to do'],
};

/** A guess for each column, from its name first and then from what stands in it; nothing is guessed twice. */
export function guessColumns(
  headers: readonly string[],
  rows: readonly (readonly string[])[],
  fields: readonly Field[],
): readonly ColumnTarget[] {
  const taken = new Set<string>();
  const take = (target: ColumnTarget): ColumnTarget => {
    const key = JSON.stringify(target);
    if (target.to === 'nothing' || taken.has(key)) return { to: 'nothing' };
    taken.add(key);
    return target;
  };
  const byName = headers.map((header) => take(guessByName(header, fields)));
  return byName.map((target, place) =>
    target.to === 'nothing'
      ? take(
          guessByContent(
            rows.map((row) => row[place] ?? ''),
            fields,
          ),
        )
      : target,
  );
}

function guessByName(header: string, fields: readonly Field[]): ColumnTarget {
  const name = plainName(header);
  const field = fields.find(
    (candidate) => plainName(candidate.name) === name || FIELD_NAMES[candidate.id]?.includes(name),
  );
  const column = DEAL_COLUMNS.find((candidate) => NAMES[candidate].includes(name));
  if (column) return { to: 'deal', column };
  return field && field.type !== 'calculated' ? { to: 'field', field: field.id } : { to: 'nothing' };
}

const plainName = (name: string): string =>
  foldText(name)
    .replace(/[_\-.()]/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();

/** Choices are recognised by their names, e-mail addresses as owners; a lone date column may be anything and is left alone. */
function guessByContent(cells: readonly string[], fields: readonly Field[]): ColumnTarget {
  const filled = cells.map((cell) => cell.trim()).filter((cell) => cell !== '');
  if (filled.length === 0 || filled.every((cell) => parseDay(cell) !== null)) return { to: 'nothing' };
  if (filled.every((cell) => /^[^\s@]+@[^\s@]+$/.test(cell))) return { to: 'field', field: 'owner' };
  const byChoice = fields.find(
    ({ choices }) => choices && filled.every((cell) => choices.some(({ name }) => foldText(name) === foldText(cell))),
  );
  return byChoice ? { to: 'field', field: byChoice.id } : { to: 'nothing' };
}
