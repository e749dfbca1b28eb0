import { formulaFields } from '../facts/calculate.ts';
import type { Catalogue, Choice, Field } from '../facts/field.ts';
import { foldText } from '../facts/value.ts';
import type { Calendar } from '../time/calendar.ts';
import type { ProcessDocument } from './document.ts';

export const PROCESS_FILE_FORMAT = 1;

export interface NamedKind {
  readonly id: string;
  readonly name: string;
}

export interface NamedCalendar extends Calendar {
  readonly name: string;
}

/** Why deals end, by the outcome's id. */
export interface FileReason {
  readonly id: string;
  readonly outcome: string;
  readonly name: string;
  readonly followUp: 'asked' | 'not_asked';
  readonly withdrawn: 'no' | 'yes';
}

/** A process with what it needs elsewhere: the administrator's fields, kinds of documents, reasons and its calendar. */
export interface ProcessFile {
  readonly format: typeof PROCESS_FILE_FORMAT;
  readonly process: ProcessDocument;
  readonly fields: readonly Field[];
  readonly documentKinds: readonly NamedKind[];
  readonly reasons: readonly FileReason[];
  readonly calendar: NamedCalendar;
}

/** What a file is matched with. */
export interface Present {
  readonly catalogue: Catalogue;
  readonly documentKinds: readonly NamedKind[];
  readonly calendars: readonly (NamedCalendar & { readonly id: string })[];
  /** Ids of whoever may be given steps and tasks. */
  readonly people: ReadonlySet<string>;
  /** Ids of templates of messages. */
  readonly templates: ReadonlySet<string>;
}

/** What becomes of a field of the file: it is one that is there, perhaps with choices that it does not have yet, or it is made. */
export interface PlannedField {
  readonly field: Field;
  readonly how: 'matched' | 'made';
  /** Choices that are added to the one that is there. */
  readonly added: readonly Choice[];
}

/** All that reading the file in would do; nothing is done yet. */
export interface FilePlan {
  readonly document: ProcessDocument;
  readonly fields: readonly PlannedField[];
  readonly documentKinds: readonly (NamedKind & { readonly how: 'matched' | 'made' })[];
  readonly calendar:
    | { readonly how: 'matched'; readonly id: string; readonly name: string }
    | { readonly how: 'made'; readonly calendar: NamedCalendar };
  /** What cannot be taken along, in words. */
  readonly left: readonly string[];
}

/**
 * Matches a file with what is there: a field by its id, holder, type and unit, else by its name; a kind of document by its id,
 * else by its name; the calendar by its days. What has no match is made, under an id that is free. Nothing that is there is
 * changed but for choices that are added. People and templates are not in a file: what names one that is not there falls to the
 * deal's owner, or is left out.
 *
 * @param newKey makes ids for fields that are made
 * @param newKindId makes ids for kinds of documents
 */
export function planFile(file: ProcessFile, present: Present, newKey: () => string, newKindId: () => string): FilePlan {
  const fields = new Map<string, PlannedField>();
  const ids = new Map<string, string>();
  const choiceIds = new Map<string, string>();
  // A formula's parts come before it, whatever their order in the file.
  for (const field of inOrder(file.fields)) {
    const planned = planField(field, present.catalogue, ids, newKey);
    fields.set(field.id, planned);
    ids.set(field.id, planned.field.id);
    for (const choice of field.choices ?? []) {
      const there =
        planned.field.choices?.find(({ id }) => id === choice.id) ??
        planned.field.choices?.find(({ name }) => isCalled(name, choice.name));
      choiceIds.set(`${field.id} ${choice.id}`, there?.id ?? choice.id);
    }
  }
  const kinds = file.documentKinds.map((kind) => {
    const there =
      present.documentKinds.find(({ id }) => id === kind.id) ??
      present.documentKinds.find(({ name }) => isCalled(name, kind.name));
    return there
      ? { ...there, from: kind.id, how: 'matched' as const }
      : { ...kind, id: newKindId(), from: kind.id, how: 'made' as const };
  });
  const kindIds = new Map(kinds.map(({ from, id }) => [from, id]));
  const left = new Set<string>();
  const document = mapped(file.process, {
    field: (id) => ids.get(id) ?? id,
    choice: (field, id) => choiceIds.get(`${field} ${id}`) ?? id,
    kind: (id) => kindIds.get(id) ?? id,
    hasPerson: (id) =>
      present.people.has(id) || !left.add('Steps and tasks of people who are not here fall to the deal’s owner.'),
    hasTemplate: (id) =>
      present.templates.has(id) || !left.add('Messages of templates that are not here are left out.'),
  }) as ProcessDocument;
  return {
    document,
    fields: [...fields.values()],
    documentKinds: kinds.map(({ id, name, how }) => ({ id, name, how })),
    calendar: planCalendar(file.calendar, present.calendars),
    left: [...left],
  };
}

const isCalled = (a: string, b: string): boolean => foldText(a.trim()) === foldText(b.trim());

function inOrder(fields: readonly Field[]): readonly Field[] {
  const done = new Set<string>();
  const ordered: Field[] = [];
  const put = (field: Field, above: readonly string[]): void => {
    if (done.has(field.id) || above.includes(field.id)) return;
    for (const part of field.formula ? formulaFields(field.formula) : []) {
      const of = fields.find(({ id }) => id === part);
      if (of) put(of, [...above, field.id]);
    }
    done.add(field.id);
    ordered.push(field);
  };
  for (const field of fields) put(field, []);
  return ordered;
}

function planField(
  field: Field,
  catalogue: Catalogue,
  ids: ReadonlyMap<string, string>,
  newKey: () => string,
): PlannedField {
  const isAlike = (other: Field | undefined): other is Field =>
    other !== undefined &&
    other.holder === field.holder &&
    other.type === field.type &&
    (other.unit ?? '') === (field.unit ?? '');
  const same = catalogue.get(field.id);
  const there = isAlike(same)
    ? same
    : [...catalogue.values()].find((other) => isAlike(other) && isCalled(other.name, field.name));
  if (there) {
    const added = (field.choices ?? []).filter(
      ({ id, name }) => !there.choices?.some((choice) => choice.id === id || isCalled(choice.name, name)),
    );
    return {
      field: { ...there, ...(there.choices ? { choices: [...there.choices, ...added] } : {}) },
      how: 'matched',
      added,
    };
  }
  const isTaken = [...catalogue.values()].some(
    (other) => other.holder === field.holder && isCalled(other.name, field.name),
  );
  const formula = field.formula && mapped(field.formula, { ...UNCHANGED, field: (id) => ids.get(id) ?? id });
  const made = {
    ...field,
    id: same ? newKey() : field.id,
    name: isTaken ? `${field.name} (from the file)` : field.name,
    ...(formula ? { formula } : {}),
  } as Field;
  return { field: made, how: 'made', added: [] };
}

function planCalendar(calendar: NamedCalendar, present: Present['calendars']): FilePlan['calendar'] {
  const days = ({ workingWeekdays, holidays }: Calendar): string =>
    `${[...workingWeekdays].sort().join()} ${[...holidays].sort().join()}`;
  const there = present.find((one) => days(one) === days(calendar));
  if (there) return { how: 'matched', id: there.id, name: there.name };
  const isTaken = (name: string): boolean => present.some((one) => isCalled(one.name, name));
  let name = calendar.name;
  for (let number = 2; isTaken(name); number++) name = `${calendar.name} ${number}`;
  return { how: 'made', calendar: { ...calendar, name } };
}

/** What names of other things are in the document that is made. */
interface Names {
  readonly field: (id: string) => string;
  readonly choice: (field: string, id: string) => string;
  readonly kind: (id: string) => string;
  readonly hasPerson: (id: string) => boolean;
  readonly hasTemplate: (id: string) => boolean;
}

const UNCHANGED: Names = {
  field: (id) => id,
  choice: (_field, id) => id,
  kind: (id) => id,
  hasPerson: () => true,
  hasTemplate: () => true,
};

/** The same with other names: everywhere in a document `field` names a field, `document` a kind of document, and so on. */
function mapped(part: unknown, names: Names): unknown {
  if (Array.isArray(part)) return part.filter((one) => isSendable(one, names)).map((one) => mapped(one, names));
  if (typeof part !== 'object' || part === null) return part;
  const { by, person } = part as { by?: unknown; person?: unknown };
  if (by === 'person' && typeof person === 'string' && person !== '' && !names.hasPerson(person))
    return { by: 'owner' };
  const field = fieldNamedBy(part);
  return Object.fromEntries(
    Object.entries(part).map(([key, value]): [string, unknown] => {
      if (key === 'field' && typeof value === 'string') return [key, names.field(value)];
      if (key === 'document' && typeof value === 'string') return [key, names.kind(value)];
      if (key === 'fields' && Array.isArray(value)) return [key, value.map((id: string) => names.field(id))];
      if (field !== null && (key === 'values' || key === 'right' || key === 'set'))
        return [key, chosen(mapped(value, names), (id) => names.choice(field, id))];
      return [key, mapped(value, names)];
    }),
  );
}

/** The field whose choices a condition or an action names. */
function fieldNamedBy(part: object): string | null {
  const { left, do: does, field } = part as { left?: { of?: unknown; field?: unknown }; do?: unknown; field?: unknown };
  if (left?.of === 'field' && typeof left.field === 'string') return left.field;
  return does === 'set_field' && typeof field === 'string' ? field : null;
}

/** Ids of choices, alone, in a list, or as the value of a term. */
function chosen(value: unknown, of: (id: string) => string): unknown {
  if (typeof value === 'string') return of(value);
  if (Array.isArray(value)) return value.map((one) => (typeof one === 'string' ? of(one) : one));
  if (typeof value === 'object' && value !== null && 'value' in value)
    return { ...value, value: chosen(value.value, of) };
  return value;
}

const isSendable = (part: unknown, names: Names): boolean => {
  if (typeof part !== 'object' || part === null || !('template' in part)) return true;
  return typeof part.template !== 'string' || names.hasTemplate(part.template);
};
