import { deal } from './deals.ts';
import { anything, integer, list, named, object, optional, text } from './schema.ts';

/** A problem document (RFC 9457), with pointers to what is wrong and, for a held move, the verdict. */
export const problem = named(
  'Problem',
  object({
    type: text(),
    title: text(),
    status: integer(400, 599),
    detail: optional(text({ max: 20_000 })),
    errors: optional(list(object({ pointer: text({ min: 0, max: 2_000_000 }), detail: text() }))),
    verdict: optional(deal.verdict),
    current: optional(anything()),
  }),
);
