import { type Condition, type Criterion, isGroup, type Operand } from '../criterion.ts';
import type { Kleene } from '../kleene.ts';

/**
 * What may or may not be so at one moment of a deal: that a criterion comes out in one of these ways, that somebody has done
 * something which no condition can read, and all or any of such.
 */
export type Claim =
  | { readonly kind: 'all' | 'any'; readonly of: readonly Claim[] }
  | { readonly kind: 'truth'; readonly of: Criterion; readonly among: readonly Kleene[] }
  | { readonly kind: 'deed'; readonly deed: string; readonly done: boolean };

export const allOf = (...of: readonly Claim[]): Claim => ({ kind: 'all', of });
export const anyOf = (...of: readonly Claim[]): Claim => ({ kind: 'any', of });
export const isTrue = (of: Criterion): Claim => ({ kind: 'truth', of, among: [true] });

/** That a count has come so far. */
export const atLeast = (left: Operand, count: number): Claim =>
  isTrue({ kind: 'at_least', left, right: { of: 'value', value: count } });

const OTHER_TRUTHS = (among: readonly Kleene[]): readonly Kleene[] =>
  [true, false, null].filter((truth) => !among.includes(truth));

/** That the claim does not hold. */
export function contrary(claim: Claim): Claim {
  switch (claim.kind) {
    case 'all':
    case 'any':
      return { kind: claim.kind === 'all' ? 'any' : 'all', of: claim.of.map(contrary) };
    case 'truth':
      return { ...claim, among: OTHER_TRUTHS(claim.among) };
    case 'deed':
      return { ...claim, done: !claim.done };
  }
}

/** A claim without groups of conditions: all and any over leaves, each with the truths that it may have. */
export type Formula =
  | { readonly kind: 'all' | 'any'; readonly of: readonly Formula[] }
  | { readonly kind: 'leaf'; readonly leaf: Condition; readonly among: readonly Kleene[] }
  | { readonly kind: 'deed'; readonly deed: string; readonly done: boolean };

/** Takes the groups of its criteria apart by Kleene's tables; a truth that is asked beside others is split off first. */
export function unfold(claim: Claim): Formula {
  if (claim.kind === 'deed') return claim;
  return claim.kind === 'truth'
    ? unfoldCriterion(claim.of, claim.among)
    : { kind: claim.kind, of: claim.of.map(unfold) };
}

function unfoldCriterion(criterion: Criterion, among: readonly Kleene[]): Formula {
  if (!isGroup(criterion)) return { kind: 'leaf', leaf: criterion, among };
  if (criterion.kind === 'not') return unfoldCriterion(criterion.of, among.map(opposite));
  // `all` is false as soon as one part is, `any` true as soon as one part is: that truth decides.
  const deciding = criterion.kind === 'any';
  const each = (truths: readonly Kleene[]): Formula => ({
    kind: 'all',
    of: criterion.of.map((part) => unfoldCriterion(part, truths)),
  });
  const some = (truths: readonly Kleene[]): Formula => ({
    kind: 'any',
    of: criterion.of.map((part) => unfoldCriterion(part, truths)),
  });
  const [decided, unknown, plain] = [among.includes(deciding), among.includes(null), among.includes(!deciding)];
  if (decided && unknown) return plain ? { kind: 'all', of: [] } : some([deciding, null]);
  if (plain && unknown) return each([!deciding, null]);
  const ways: Formula[] = [
    ...(decided ? [some([deciding])] : []),
    ...(plain ? [each([!deciding])] : []),
    ...(unknown ? [{ kind: 'all' as const, of: [each([!deciding, null]), some([null])] }] : []),
  ];
  return ways.length === 1 && ways[0] ? ways[0] : { kind: 'any', of: ways };
}

/** How many leaves it has. */
export const sizeOf = (formula: Formula): number =>
  formula.kind === 'all' || formula.kind === 'any' ? formula.of.reduce((sum, part) => sum + sizeOf(part), 1) : 1;

const opposite = (truth: Kleene): Kleene => (truth === null ? null : !truth);
