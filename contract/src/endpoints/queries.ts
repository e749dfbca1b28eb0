import { day, described, either, id, integer, object, oneOf, optional, processId, text } from '../schema.ts';

/** Queries and parameters that several endpoints share. */
export const paging = { after: optional(text({ max: 500 })), limit: optional(integer(1, 200)) };
export const found = object({ ...paging, find: optional(text({ min: 0, max: 200 })) });
export const processParams = object({ process: processId() });
/** Whose deals: ids, or `none` for those that have no owner or no team. */
export const whose = {
  owner: optional(either(id(), oneOf(['none']))),
  team: optional(either(id(), oneOf(['none']))),
};

/** A day that pages are told of. */
export const asOf = {
  on: optional(day()),
  known: optional(
    described(
      oneOf(['then']),
      'Of a day that has gone by, what was known at its end in place of what is known of it now.',
    ),
  ),
};

export const dealFilter = {
  ...whose,
  standing: optional(oneOf(['clear', 'flagged', 'held'])),
  closeBefore: optional(day()),
  pastTarget: optional(described(oneOf(['yes']), 'Those alone that are longer in their stage than its target.')),
};
