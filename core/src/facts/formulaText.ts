import { failed, ok, type Result } from '../result.ts';
import { readsThrough } from './calculate.ts';
import type { Catalogue, Field, FieldHolder, Formula } from './field.ts';
import { foldText } from './value.ts';

/** More numbers and fields than this nobody reads in one formula. */
export const MOST_FORMULA_PARTS = 60;
const MOST_FORMULA_TEXT = 4_000;
/** Signs and parentheses among them, which may stand within each other. */
const MOST_TOKENS = 400;

/** What is wrong with a formula as it is written, and where: from which character on, and how many. */
export type FormulaProblem = { readonly at: number; readonly length: number } & (
  | { readonly code: 'value_expected' | 'operation_expected' | 'not_closed' | 'not_opened' | 'quote_not_closed' }
  | { readonly code: 'not_a_number' | 'unknown_name'; readonly text: string }
  | { readonly code: 'other_holder'; readonly name: string; readonly holder: FieldHolder }
  | { readonly code: 'not_a_number_field'; readonly name: string }
  | { readonly code: 'reads_itself'; readonly name: string }
  | { readonly code: 'too_many_parts' | 'too_long'; readonly most: number }
);

/** What a formula is written over. */
export interface FormulaPlace {
  readonly catalogue: Catalogue;
  /** A formula reads the record that it belongs to, and no other. */
  readonly holder: FieldHolder;
  /** The calculated number that it is of, where there is one: it reads itself nowhere. */
  readonly field?: string | undefined;
}

const OPERATIONS = { '+': 'add', '-': 'subtract', '*': 'multiply', '/': 'divide' } as const;
type Sign = keyof typeof OPERATIONS;
/** Signs that are written for the plain ones. */
const ALSO: Readonly<Record<string, Sign>> = { '−': '-', '–': '-', '×': '*', '·': '*', '÷': '/', ':': '/' };
const WRITTEN: Readonly<Record<Sign, string>> = { '+': '+', '-': '−', '*': '×', '/': '÷' };

type Token = { readonly at: number; readonly length: number } & (
  | { readonly kind: 'sign'; readonly sign: Sign }
  | { readonly kind: 'open' | 'close' | 'end' }
  | { readonly kind: 'value'; readonly value: Formula }
);

/**
 * Reads arithmetic as it is written by hand: numbers with a decimal point, names of fields, `+ − × ÷` (or `- * /`) and
 * parentheses; times and divided by come first, and what is alike goes from left to right. A name may be written in
 * quotes, and has to be where it holds a sign or begins with a digit. Errors: the first fault, with its place.
 */
export function readFormula(text: string, place: FormulaPlace): Result<Formula, FormulaProblem> {
  if (text.length > MOST_FORMULA_TEXT)
    return failed({
      code: 'too_long',
      most: MOST_FORMULA_TEXT,
      at: MOST_FORMULA_TEXT,
      length: text.length - MOST_FORMULA_TEXT,
    });
  const tokens = tokensOf(text, place);
  return tokens.ok ? new Reading(tokens.value).whole() : tokens;
}

/** What a formula reads as: the very formula comes of it when it is read again, as long as its fields are there. */
export function writeFormula(formula: Formula, catalogue: Catalogue): string {
  if (formula.kind === 'number') return plainNumber(formula.value);
  if (formula.kind === 'field') return writtenName(catalogue.get(formula.field)?.name ?? formula.field);
  const isProduct = formula.kind === 'multiply' || formula.kind === 'divide';
  const within = (part: Formula, side: 'left' | 'right'): string => {
    const isSum = part.kind === 'add' || part.kind === 'subtract';
    const isGroup = isSum || part.kind === 'multiply' || part.kind === 'divide';
    const needs = side === 'right' ? isSum || (isProduct && isGroup) : isProduct && isSum;
    return needs ? `(${writeFormula(part, catalogue)})` : writeFormula(part, catalogue);
  };
  const sign = Object.entries(OPERATIONS).find(([, kind]) => kind === formula.kind)?.[0] as Sign;
  return `${within(formula.left, 'left')} ${WRITTEN[sign]} ${within(formula.right, 'right')}`;
}

/** A field's name as it stands in a formula: in quotes where its signs could be taken for arithmetic. */
export const writtenName = (name: string): string =>
  /^\p{L}[\p{L}\p{M}\p{N}]*( [\p{L}\p{M}\p{N}]+)*$/u.test(name) ? name : `"${name.replaceAll('"', '""')}"`;

/** Without an exponent, which would read as a name. */
const plainNumber = (value: number): string =>
  value.toLocaleString('en', { useGrouping: false, maximumSignificantDigits: 15 });

const isReckoned = ({ type }: Field): boolean => type === 'number' || type === 'money' || type === 'calculated';

/** Fields that a formula at this place can read, in the order of the catalogue. */
export const formulaOperands = ({ catalogue, holder, field: own }: FormulaPlace): readonly Field[] =>
  [...catalogue.values()].filter(
    (field) =>
      field.holder === holder && isReckoned(field) && (own === undefined || !readsThrough(field.id, own, catalogue)),
  );

function tokensOf(text: string, place: FormulaPlace): Result<readonly Token[], FormulaProblem> {
  const tokens: Token[] = [];
  let values = 0;
  // Longest first: of “Area” and “Area of glass” the longer one is meant where it stands.
  const names = [...place.catalogue.values()]
    .map((field): Named => ({ field, folded: foldText(field.name) }))
    .sort((a, b) => b.field.name.length - a.field.name.length);
  for (let at = 0; at < text.length; ) {
    const char = text.charAt(at);
    if (/\s/.test(char)) {
      at++;
      continue;
    }
    const sign = char in OPERATIONS ? (char as Sign) : ALSO[char];
    const token: Result<Token, FormulaProblem> =
      sign !== undefined
        ? ok({ kind: 'sign', sign, at, length: 1 })
        : char === '(' || char === ')'
          ? ok({ kind: char === '(' ? 'open' : 'close', at, length: 1 })
          : /[\d.]/.test(char)
            ? numberAt(text, at)
            : nameAt(text, at, names, place);
    if (!token.ok) return token;
    const { length } = token.value;
    if (token.value.kind === 'value') values++;
    if (values > MOST_FORMULA_PARTS || tokens.length >= MOST_TOKENS)
      return failed({ code: 'too_many_parts', most: MOST_FORMULA_PARTS, at, length });
    tokens.push(token.value);
    at += length;
  }
  return ok([...tokens, { kind: 'end', at: text.length, length: 0 }]);
}

function numberAt(text: string, at: number): Result<Token, FormulaProblem> {
  const [written = ''] = /^[\d.,_'’\p{L}]+/u.exec(text.slice(at)) ?? [];
  const length = written.length;
  const digits = written.replace('.', '').replace(/^0+/, '');
  if (!/^(\d+(\.\d+)?|\.\d+)$/.test(written) || digits.length > 15)
    return failed({ code: 'not_a_number', text: written, at, length });
  return ok({ kind: 'value', value: { kind: 'number', value: Number(written) }, at, length });
}

interface Named {
  readonly field: Field;
  readonly folded: string;
}

function nameAt(text: string, at: number, names: readonly Named[], place: FormulaPlace): Result<Token, FormulaProblem> {
  const quoted = text.charAt(at) === '"';
  const written = quoted ? quotedAt(text, at) : plainAt(text, at, names);
  if (written === null) return failed({ code: 'quote_not_closed', at, length: text.length - at });
  const { name, length } = written;
  const folded = foldText(name.trim());
  const called = names.filter((one) => one.folded === folded).map(({ field }) => field);
  const field = called.find(({ holder }) => holder === place.holder);
  const where = { at, length };
  if (!field) {
    const [other] = called;
    return failed(
      other
        ? { code: 'other_holder', name: other.name, holder: other.holder, ...where }
        : { code: 'unknown_name', text: name, ...where },
    );
  }
  if (!isReckoned(field)) return failed({ code: 'not_a_number_field', name: field.name, ...where });
  if (place.field !== undefined && readsThrough(field.id, place.field, place.catalogue))
    return failed({ code: 'reads_itself', name: field.name, ...where });
  return ok({ kind: 'value', value: { kind: 'field', field: field.id }, ...where });
}

/** No name is longer. */
const MOST_NAME = 250;

interface Written {
  readonly name: string;
  readonly length: number;
}

function quotedAt(text: string, at: number): Written | null {
  const match = /^"((?:[^"]|"")*)"/.exec(text.slice(at));
  return match ? { name: (match[1] ?? '').replaceAll('""', '"'), length: match[0].length } : null;
}

/** The longest name that stands here; what is no name goes on to the next sign. */
function plainAt(text: string, at: number, names: readonly Named[]): Written {
  const rest = text.slice(at, at + MOST_NAME);
  const begins = foldText(rest.charAt(0));
  const known = names.find(({ field: { name }, folded }) => {
    const isHere = folded.startsWith(begins) && foldText(rest.slice(0, name.length)) === folded;
    return isHere && !/^[\p{L}\p{M}\p{N}_]/u.test(rest.slice(name.length));
  });
  if (known) return { name: rest.slice(0, known.field.name.length), length: known.field.name.length };
  const [word = rest] = /^[^+*/()"×÷−–·]+/u.exec(rest) ?? [];
  const name = word.trimEnd();
  return { name, length: Math.max(name.length, 1) };
}

/** Goes through the tokens once, by the grammar: sums of products of values. */
class Reading {
  private readonly tokens: readonly Token[];
  private place = 0;

  constructor(tokens: readonly Token[]) {
    this.tokens = tokens;
  }

  whole(): Result<Formula, FormulaProblem> {
    const read = this.sum();
    const { kind, at, length } = this.here();
    if (!read.ok || kind === 'end') return read;
    return failed({ code: kind === 'close' ? 'not_opened' : 'operation_expected', at, length });
  }

  private here(): Token {
    return this.tokens[this.place] as Token;
  }

  private sum(): Result<Formula, FormulaProblem> {
    return this.chain(['+', '-'], () => this.product());
  }

  private product(): Result<Formula, FormulaProblem> {
    return this.chain(['*', '/'], () => this.value());
  }

  private chain(signs: readonly Sign[], part: () => Result<Formula, FormulaProblem>): Result<Formula, FormulaProblem> {
    let left = part();
    for (;;) {
      const token = this.here();
      if (!left.ok || token.kind !== 'sign' || !signs.includes(token.sign)) return left;
      this.place++;
      const right = part();
      if (!right.ok) return right;
      left = ok({ kind: OPERATIONS[token.sign], left: left.value, right: right.value });
    }
  }

  private value(): Result<Formula, FormulaProblem> {
    const token = this.here();
    const { at, length } = token;
    if (token.kind === 'value') {
      this.place++;
      return ok(token.value);
    }
    if (token.kind === 'sign' && token.sign === '-') return this.negative();
    if (token.kind !== 'open') return failed({ code: 'value_expected', at, length });
    this.place++;
    const within = this.sum();
    if (!within.ok) return within;
    if (this.here().kind !== 'close')
      return failed(
        this.here().kind === 'end'
          ? { code: 'not_closed', at, length }
          : { code: 'operation_expected', at: this.here().at, length: this.here().length },
      );
    this.place++;
    return within;
  }

  /** A number below 0, or what is less than nothing by a value. */
  private negative(): Result<Formula, FormulaProblem> {
    this.place++;
    const of = this.value();
    if (!of.ok) return of;
    const { value } = of;
    if (value.kind === 'number' && value.value > 0) return ok({ kind: 'number', value: -value.value });
    return ok({ kind: 'subtract', left: { kind: 'number', value: 0 }, right: value });
  }
}

/** The problem in words, to stand beside the formula. */
export function describeFormulaProblem(problem: FormulaProblem): string {
  switch (problem.code) {
    case 'value_expected':
      return 'A number or the name of a field is missing here.';
    case 'operation_expected':
      return 'There is no + − × ÷ between these two.';
    case 'not_closed':
      return 'This parenthesis is not closed.';
    case 'not_opened':
      return 'This parenthesis closes none.';
    case 'quote_not_closed':
      return 'This quotation mark is not closed.';
    case 'not_a_number':
      return `“${problem.text}” is not a number: digits with a decimal point, at most 15, and nothing between thousands.`;
    case 'unknown_name':
      return `There is no field called “${problem.text}”.`;
    case 'other_holder':
      return `${problem.name} is kept with the ${problem.holder}, and a formula reads its own record alone.`;
    case 'not_a_number_field':
      return `${problem.name} is neither a number nor an amount.`;
    case 'reads_itself':
      return `${problem.name} is worked out from this number, which would read itself.`;
    case 'too_many_parts':
      return `A formula has at most ${problem.most} numbers and fields. Work out a part of it in a calculated number of its own.`;
    case 'too_long':
      return `A formula has at most ${problem.most.toLocaleString('en-GB')} characters.`;
  }
}
