import type { NameOf, Piece } from '../criteria/phrase.ts';
import type { Catalogue } from '../facts/field.ts';
import type { ProcessDocument } from '../processes/document.ts';
import type { ShapesOf } from '../shape.ts';

/** What an event is told with: the version that the deal followed, its fields, and names of people and parties. */
export interface EventWords {
  readonly document: ProcessDocument;
  readonly catalogue: Catalogue;
  readonly nameOf: NameOf;
}

/**
 * One kind of thing that a deal's journal can say. What it says is typed; free text stands apart, so that it can be
 * erased with the chain intact (S36).
 */
export interface EventKind<Kind extends string, Body extends object> {
  readonly kind: Kind;
  readonly shape: ShapesOf<Body>;
  says(body: Body, words: EventWords): readonly Piece[];
}

export const strong = (text: string): Piece => ({ text, strong: true });
export const plain = (text: string): Piece => ({ text, strong: false });
