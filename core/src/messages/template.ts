import { valueText } from '../criteria/phrase.ts';
import type { Catalogue } from '../facts/field.ts';
import { type FactValue, isMoney } from '../facts/value.ts';
import { failed, ok, type Result } from '../result.ts';

/** A text made for many deals: `{deal.name}` stands for the deal's name, `{{` for a brace. */
export const LONGEST_TEMPLATE = 20_000;
export const LONGEST_SUBJECT = 300;
/** A message is no longer, whatever was merged into it. */
export const LONGEST_MESSAGE = 100_000;
export const MOST_MERGE_FIELDS = 100;

type Part = { readonly text: string } | { readonly field: string };

const FIELD = /^(?<of>deal|customer|contact|owner)\.(?<name>[A-Za-z0-9_:.-]{1,80})$/;
/** What is known of everyone beside the catalogue's fields. */
const PLAIN: readonly string[] = ['deal.name', 'customer.name', 'contact.name', 'owner.name', 'owner.email'];

export type TemplateProblem =
  | { readonly code: 'open_brace' }
  | { readonly code: 'unknown_field'; readonly field: string }
  | { readonly code: 'too_many_fields'; readonly most: number };

/** What is wrong with a template, each thing once; `plain` fields are always known, others by the catalogue. */
export function templateProblems(template: string, catalogue: Catalogue): readonly TemplateProblem[] {
  const parts = readTemplate(template);
  if (!parts) return [{ code: 'open_brace' }];
  const fields = [...new Set(fieldsOf(parts))];
  if (fieldsOf(parts).length > MOST_MERGE_FIELDS) return [{ code: 'too_many_fields', most: MOST_MERGE_FIELDS }];
  return fields.filter((field) => !isKnown(field, catalogue)).map((field) => ({ code: 'unknown_field', field }));
}

/** The same in words. */
export function describeTemplateProblem(problem: TemplateProblem): string {
  switch (problem.code) {
    case 'open_brace':
      return 'A { has no } to end it. Write {{ for the brace itself.';
    case 'unknown_field':
      return `There is no {${problem.field}}. It is one of ${PLAIN.map((field) => `{${field}}`).join(', ')}, or {deal.…}, {customer.…} and {contact.…} with the id of a field.`;
    case 'too_many_fields':
      return `A template merges at most ${problem.most} fields.`;
  }
}

function isKnown(field: string, catalogue: Catalogue): boolean {
  if (PLAIN.includes(field)) return true;
  const groups = FIELD.exec(field)?.groups;
  return groups !== undefined && catalogue.get(groups.name ?? '')?.holder === groups.of;
}

/** The template in parts; null where a brace is not closed. */
function readTemplate(template: string): readonly Part[] | null {
  const parts: Part[] = [];
  let text = '';
  for (let place = 0; place < template.length; place++) {
    const letter = template[place] ?? '';
    if (letter !== '{') text += letter;
    else if (template[place + 1] === '{') {
      text += '{';
      place++;
    } else {
      const end = template.indexOf('}', place);
      if (end < 0) return null;
      parts.push({ text }, { field: template.slice(place + 1, end).trim() });
      text = '';
      place = end;
    }
  }
  return [...parts, { text }];
}

const fieldsOf = (parts: readonly Part[]): readonly string[] =>
  parts.flatMap((part) => ('field' in part ? [part.field] : []));

/** What a template is merged with: of the deal and those about it. */
export interface MergeFacts {
  readonly catalogue: Catalogue;
  /** By their paths, such as `customer.name`: what is no field of the catalogue. */
  readonly plain: Readonly<Record<string, string | null>>;
  readonly values: Readonly<Record<string, FactValue>>;
  readonly nameOf: (id: string) => string | undefined;
}

export interface Merged {
  /** Fields that are empty stand in it as they are written in the template. */
  readonly text: string;
  /** Those fields by their names: with any of them it is not to be sent. */
  readonly missing: readonly string[];
}

/** The template with its fields filled. Errors: more than a message may hold. */
export function mergeTemplate(template: string, facts: MergeFacts): Result<Merged, { readonly code: 'too_long' }> {
  const parts = readTemplate(template) ?? [{ text: template }];
  const missing = new Set<string>();
  const merged = parts.map((part) => {
    if ('text' in part) return part.text;
    const value = mergedValue(part.field, facts);
    if (value === null) missing.add(fieldName(part.field, facts.catalogue));
    return value ?? `{${part.field}}`;
  });
  const text = merged.join('');
  return text.length > LONGEST_MESSAGE ? failed({ code: 'too_long' }) : ok({ text, missing: [...missing] });
}

const UNFILLED = /\{\s*(?<field>(?:deal|customer|contact|owner)\.[A-Za-z0-9_:.-]{1,80})\s*\}/g;

/** Merge fields that a text still has: nothing is sent with such a hole. */
export const unfilledFields = (text: string): readonly string[] => [
  ...new Set([...text.matchAll(UNFILLED)].map(({ groups }) => groups?.field ?? '')),
];

function mergedValue(path: string, { catalogue, plain, values, nameOf }: MergeFacts): string | null {
  if (PLAIN.includes(path)) return plain[path] || null;
  const field = catalogue.get(FIELD.exec(path)?.groups?.name ?? '');
  const value = field ? (values[field.id] ?? null) : null;
  if (!field || value === null || value === '' || (Array.isArray(value) && value.length === 0)) return null;
  return typeof value === 'string' && !field.choices && !isMoney(value) && isWords(field.type)
    ? value
    : valueText(value, field, nameOf);
}

const isWords = (type: string): boolean => type === 'text' || type === 'long_text' || type === 'link';

/** A merge field as it is told to a person. */
function fieldName(path: string, catalogue: Catalogue): string {
  const { of = '', name = '' } = FIELD.exec(path)?.groups ?? {};
  const field = PLAIN.includes(path) ? name : (catalogue.get(name)?.name.toLowerCase() ?? name);
  return `${field} of the ${of || 'deal'}`;
}
