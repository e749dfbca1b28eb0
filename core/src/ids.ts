declare const mark: unique symbol;

/** A text that names one sort of thing, and is taken for no other. Only what reads it from outside makes one. */
type Id<Of extends string> = string & { readonly [mark]: Of };

export type ProcessId = Id<'process'>;
export type VersionId = Id<'version'>;
export type StageId = Id<'stage'>;
export type DealId = Id<'deal'>;
