/** What one part of a requirement's data may be, as data: checks, documents and forms are made from it. */
export type Shape =
  /** An id, such as a field's. */
  | { readonly is: 'key' }
  | { readonly is: 'words'; readonly most: number }
  | { readonly is: 'one_of'; readonly values: readonly string[] }
  | { readonly is: 'criterion' };

/** The parts by name; none may be left out. */
export type Shapes = Readonly<Record<string, Shape>>;
