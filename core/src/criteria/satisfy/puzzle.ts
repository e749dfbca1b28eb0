import type { FactValue } from '../../facts/value.ts';
import { parseDay } from '../../time/day.ts';
import { type Condition, termsOf } from '../criterion.ts';
import { evaluate } from '../evaluate.ts';
import type { Facts } from '../facts.ts';
import type { Kleene } from '../kleene.ts';
import type { Budget } from './budget.ts';
import { boundsOf, type Cells, cellsOf, constantsIn, type Group } from './cells.ts';
import type { Formula } from './claim.ts';
import { exampleFacts } from './exampleFacts.ts';
import { type Atom, atomOf, mainCurrencies, type Subject, type Variable } from './variable.ts';

/** What a claim is about: a variable of its conditions, or something that is done or not. */
export type Slot =
  | { readonly kind: 'variable'; readonly variable: Variable }
  | { readonly kind: 'deed'; readonly deed: string };

/** A claim over numbered slots. */
export type Clause = All | Choice | Limit | Link;

interface All {
  readonly kind: 'all';
  readonly of: readonly Clause[];
}

/** One way at least. */
export interface Choice {
  readonly kind: 'any';
  readonly of: readonly Clause[];
}

/** A slot has one of some values; by their places among its cells. */
export interface Limit {
  readonly kind: 'limit';
  readonly slot: number;
  readonly allowed: readonly boolean[];
}

/** Several slots have values that go together. */
export interface Link {
  readonly kind: 'link';
  readonly slots: readonly number[];
  readonly allows: (values: readonly FactValue[]) => boolean;
}

/** All that is to be tried on one day. */
export interface Puzzle {
  readonly slots: readonly Slot[];
  /** Of each slot. */
  readonly cells: readonly Cells[];
  readonly clause: Clause;
}

/** A formula with what its conditions read, in groups that are compared with each other. */
export interface Reading {
  readonly formula: Formula;
  readonly atoms: ReadonlyMap<Condition, Atom>;
  readonly groups: readonly Group[];
  /** Amounts of one field are compared in several currencies. */
  readonly isMixed: boolean;
}

export function readFormula(formula: Formula, subject: Subject): Reading {
  const leaves = leavesOf(formula);
  const main = mainCurrencies(leaves);
  const atoms = new Map(
    leaves.flatMap((leaf) => {
      const atom = atomOf(leaf, subject, main);
      return atom ? [[leaf, atom] as const] : [];
    }),
  );
  const groups = groupsOf([...atoms.values()]);
  const amounts = groups.flatMap(({ variables }) => variables.filter(({ kind }) => kind === 'money'));
  const operands = new Set(amounts.map(({ operand }) => JSON.stringify(operand)));
  return { formula, atoms, groups, isMixed: operands.size < amounts.length };
}

const leavesOf = (formula: Formula): readonly Condition[] =>
  formula.kind === 'leaf' ? [formula.leaf] : formula.kind === 'deed' ? [] : formula.of.flatMap(leavesOf);

/** Puts together what is compared with each other. */
function groupsOf(atoms: readonly Atom[]): readonly Group[] {
  const groupOf = new Map<string, { readonly variables: Variable[]; readonly conditions: Condition[] }>();
  for (const { condition, reads } of atoms) {
    const [first, ...others] = new Set(reads.flatMap(({ key }) => groupOf.get(key) ?? []));
    const group = first ?? { variables: [], conditions: [] };
    const fresh = reads.filter(({ key }) => !groupOf.has(key));
    group.variables.push(...others.flatMap(({ variables }) => variables), ...fresh);
    group.conditions.push(...others.flatMap(({ conditions }) => conditions), condition);
    for (const { key } of [...others.flatMap(({ variables }) => variables), ...fresh]) groupOf.set(key, group);
  }
  return [...new Set(groupOf.values())];
}

/**
 * Days that stand for all from `today` on: where days that are named meet days that go along with today, their order, and
 * whether there is room between them, changes near those days alone.
 */
export function daysToTry({ groups }: Reading, today: number, budget: Budget): readonly number[] | 'spent' {
  const days = new Set([today]);
  for (const { variables, conditions } of groups) {
    const moving: number[] = [];
    for (const condition of conditions)
      for (const term of termsOf(condition)) if (term.of === 'today') moving.push(term.plus);
    if (moving.length === 0) continue;
    const room = variables.length + 1;
    const named = [
      ...conditions.flatMap(constantsIn).flatMap((value) => (typeof value === 'string' ? (parseDay(value) ?? []) : [])),
      ...variables.filter(({ field }) => field.firstDay !== undefined || field.lastDay !== undefined).flatMap(boundsOf),
    ];
    if (!budget.spend(named.length * moving.length)) return 'spent';
    for (const day of named)
      for (const plus of moving) for (let by = -room; by <= room; by++) days.add(day - plus + by);
  }
  return [...days].filter((day) => day >= today).sort((a, b) => a - b);
}

/** Numbers what is read, and works out which values of it each condition lets be. */
export function puzzleOn(
  { formula, atoms, groups }: Reading,
  subject: Subject,
  today: number,
  budget: Budget,
): Puzzle | 'spent' {
  const slots: Slot[] = [];
  const cells: Cells[] = [];
  const places = new Map<string, number>();
  for (const group of groups)
    for (const variable of group.variables) {
      places.set(variable.key, slots.length);
      slots.push({ kind: 'variable', variable });
      const laidOut = cellsOf(variable, group, subject, today);
      if (!budget.spend(laidOut.values.length * group.conditions.length)) return 'spent';
      cells.push(laidOut);
    }
  const truths = new Map<Condition, readonly Kleene[]>();
  const truthOf = (condition: Condition, reads: readonly Variable[], values: readonly FactValue[]): Kleene => {
    const given = reads.map(({ operand }, place) => ({ operand, value: values[place] ?? null }));
    return evaluate(condition, exampleFacts(given, today), subject.catalogue).result;
  };
  const facts = new Map<number, readonly Facts[]>();
  const factsOf = ({ operand }: Variable, slot: number): readonly Facts[] => {
    const made = facts.get(slot) ?? cells[slot]?.values.map((value) => exampleFacts([{ operand, value }], today)) ?? [];
    facts.set(slot, made);
    return made;
  };
  const truthsOf = (condition: Condition, variable: Variable, slot: number): readonly Kleene[] => {
    const known =
      truths.get(condition) ?? factsOf(variable, slot).map((of) => evaluate(condition, of, subject.catalogue).result);
    truths.set(condition, known);
    return known;
  };
  const deedSlot = (deed: string): number => {
    const known = places.get(`deed ${deed}`);
    if (known !== undefined) return known;
    places.set(`deed ${deed}`, slots.length);
    cells.push({ values: [true, false], isWhole: true });
    return slots.push({ kind: 'deed', deed }) - 1;
  };
  const clauseOf = (part: Formula): Clause => {
    if (part.kind === 'deed') return { kind: 'limit', slot: deedSlot(part.deed), allowed: [part.done, !part.done] };
    if (part.kind !== 'leaf') return { kind: part.kind, of: part.of.map(clauseOf) };
    const { leaf, among } = part;
    const reads = atoms.get(leaf)?.reads;
    if (!reads) return { kind: among.includes(null) ? 'all' : 'any', of: [] };
    const at = reads.map(({ key }) => places.get(key) ?? -1);
    const [[slot = -1], [variable]] = [at, reads];
    return variable && at.length === 1
      ? { kind: 'limit', slot, allowed: truthsOf(leaf, variable, slot).map((truth) => among.includes(truth)) }
      : { kind: 'link', slots: at, allows: (values) => among.includes(truthOf(leaf, reads, values)) };
  };
  return { slots, cells, clause: clauseOf(formula) };
}
