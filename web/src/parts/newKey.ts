/** An id inside a document, or of a choice. */
export const newKey = <Id extends string = string>(): Id => crypto.randomUUID().slice(0, 13).replace('-', '') as Id;
