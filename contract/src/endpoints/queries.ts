import { day, described, id, integer, object, oneOf, optional, processId, text } from '../schema.ts';

/** Queries and parameters that several endpoints share. */
export const paging = { after: optional(text({ max: 500 })), limit: optional(integer(1, 200)) };
export const found = object({ ...paging, find: optional(text({ min: 0, max: 200 })) });
export const processParams = object({ process: processId() });
export const dealFilter = {
  owner: optional(id()),
  team: optional(id()),
  standing: optional(oneOf(['clear', 'flagged', 'held'])),
  closeBefore: optional(day()),
  pastTarget: optional(described(oneOf(['yes']), 'Those alone that are longer in their stage than its target.')),
};
