import { day, named, number, object, page, text } from './schema.ts';

const currency = text({ min: 3, max: 3, pattern: /^[A-Z]{3}$/ });
const rate = named('Rate', object({ from: currency, to: currency, day: day(), rate: number() }));

export const rates = { rate, page: page(rate) };
