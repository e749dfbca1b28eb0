/*
 * By what states are added up is one number that PostgreSQL makes of each, `sum_key`: in 25 bits the number of its shape among
 * `state_shapes`; in 22 the day of coming to its stage, from NO_DAY on; in 16 one more than the days until it is to move on, 0
 * where it is not.
 */

const NO_DAY = `date '0001-12-31 BC'`;
const entered = (key: string): string => `(${key} >> 16 & (1 << 22) - 1)::int`;
const target = (key: string): string => `(${key} & (1 << 16) - 1)::int`;

export const shapeNumber = (key: string): string => `(${key} >> 38)::int`;

/** The same key for all days. */
export const withoutDays = (key: string): string => `${key} & ~((1::bigint << 38) - 1)`;

export const enteredDay = (key: string): string => `${NO_DAY} + ${entered(key)}`;

/** Whether it was to move on before that day; core's `isPastTarget`. */
export const isPastTarget = (key: string, day: string): string =>
  `(${target(key)} > 0 and ${entered(key)} + ${target(key)} - 1 < ${day} - ${NO_DAY})`;
