/**
 * What a part of a stored record may be, as data: the contract's checks and the documents about the API are made from
 * it, so that a kind of requirement or event says its own form and nobody else repeats it.
 */
export type Shape =
  /** An id that an administrator's document gave, such as a field's or a stage's. */
  | { readonly is: 'key' }
  /** An id that the server gave (a UUID). */
  | { readonly is: 'id' }
  /** A text that is not empty. */
  | { readonly is: 'name' }
  /** A text that may be empty. */
  | { readonly is: 'words'; readonly most: number }
  | { readonly is: 'one_of'; readonly values: readonly string[] }
  /** A whole number from 1 on. */
  | { readonly is: 'count' }
  /** A whole number from 0 on. */
  | { readonly is: 'tally' }
  | { readonly is: 'day' }
  /** A value of a field of any type. */
  | { readonly is: 'fact' }
  | { readonly is: 'criterion' }
  | { readonly is: 'list'; readonly of: Shape }
  | { readonly is: 'parts'; readonly of: Shapes }
  /** Null where there is none. */
  | { readonly is: 'or_none'; readonly of: Shape }
  /** May be left out. */
  | { readonly is: 'maybe'; readonly of: Shape };

/** The parts of a record by name. */
export type Shapes = Readonly<Record<string, Shape>>;

/** Shapes for just the parts of a record, so that none is forgotten and none is too many. */
export type ShapesOf<Whole> = { readonly [Part in keyof Whole]-?: Shape };
