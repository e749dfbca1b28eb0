/** An expected failure is a value; a throw is a defect. */
export type Result<T, E> = { ok: true; value: T } | { ok: false; error: E };

/** Wraps a value as a success. */
export const ok = <T>(value: T): { ok: true; value: T } => ({ ok: true, value });

/** Wraps an expected failure. */
export const failed = <E>(error: E): { ok: false; error: E } => ({ ok: false, error });
