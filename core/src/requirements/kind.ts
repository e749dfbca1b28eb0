import type { Problem } from '../criteria/check.ts';
import type { Columns, RowTest } from '../criteria/compile.ts';
import type { Criterion } from '../criteria/criterion.ts';
import type { NameOf, Piece } from '../criteria/phrase.ts';
import type { Claim } from '../criteria/satisfy/claim.ts';
import type { Catalogue } from '../facts/field.ts';
import type { Shapes } from '../shape.ts';
import type { Instant } from '../time/day.ts';
import type { GateFacts, ItemBase, ItemState, Judged, Remedy } from './item.ts';

/** Ready to judge rows: a column that must be filled, which is told at once, or a test. */
export type Compiled =
  | { readonly as: 'filled'; readonly column: number }
  | { readonly as: 'test'; readonly test: RowTest };

/** Where items of a kind are written down. */
export type WrittenIn = 'requirement' | 'checklist' | 'rule';

/**
 * All that the rest of the program asks of a kind of requirement. A kind is one object of this type in the list of
 * `kinds.ts`; nobody else tells kinds apart. What a kind says of an item is about the item as if it applied and were
 * not waived: those are alike for all kinds.
 */
export interface RequirementKind<
  Item extends ItemBase = ItemBase,
  Written extends WrittenIn = WrittenIn,
  Finding extends string = string,
> {
  readonly kind: Item['kind'];
  /** Where its items are written: in the lists of requirements, among a stage's checklist, or as a rule of the process. */
  readonly written: Written;
  /** The kind of the findings about it, and how they are called. */
  readonly finding: { readonly kind: Finding; readonly name: string };
  /** Its own data in the document, beside what all requirements have. */
  readonly shape: Shapes;
  /** Which of that are words only: changed alone, nothing else is asked (S28). */
  readonly wording: readonly string[];
  /**
   * Names of the deal parts that an item is judged by: of a move of the past, what has to be kept of them (S23). The list of
   * parts is above this one; a test holds the names against it.
   */
  needs(item: Item): readonly string[];
  judge(item: Item, facts: GateFacts, catalogue: Catalogue): Judged;
  /** How an open item is put right. */
  remedy(item: Item, judged: Judged, facts: GateFacts, catalogue: Catalogue): Remedy;
  /** What is asked, in words. */
  asks(item: WrittenAs<Item>, catalogue: Catalogue, nameOf: NameOf): readonly Piece[];
  /** What is so now, in words; null where there is nothing to tell. */
  actual(item: Item, now: ItemNow, catalogue: Catalogue, nameOf: NameOf): string | null;
  compile(item: Item, catalogue: Catalogue, columns: Columns): Compiled;
  /** The instants after `facts.at` at which its answer may change by the clock alone, in any order (S20). */
  turns(item: Item, facts: GateFacts): readonly Instant[];
  /** Ids of the fields it asks for or reads. */
  reads(item: Item): readonly string[];
  /** Criteria that it judges. */
  criteria(item: Item): readonly Criterion[];
  /** That it is met, as what conditions can tell; a deed where none can. */
  met(item: Item): Claim;
  /** What keeps a document with it from being published; `pointer` is its place, and what the document does not have has no name. */
  problems(item: WrittenAs<Item>, catalogue: Catalogue, pointer: string, nameOf: NameOf): readonly Problem[];
}

/** An item's state with what explains it. */
export interface ItemNow {
  readonly state: ItemState;
  readonly explanation: Judged['explanation'];
  readonly found: string | null;
}

/** An item as the document has it, its place not yet known. */
export type WrittenAs<Item extends ItemBase> = Item extends ItemBase ? Omit<Item, 'stage' | 'at'> : never;
