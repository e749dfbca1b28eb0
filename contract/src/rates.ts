import { day, described, named, number, object, page, text } from './schema.ts';

const currency = text({ min: 3, max: 3, pattern: /^[A-Z]{3}$/ });
const rate = named(
  'Rate',
  object({
    from: described(currency, 'The currency that is converted.'),
    to: described(currency, 'The currency that it is converted into.'),
    day: described(day(), 'From this day on, until a later rate of the same pair.'),
    rate: described(number(), 'How many units of `to` one unit of `from` is: EUR to GBP at 0.85 makes 100 EUR 85 GBP.'),
  }),
);

export const rates = { rate, page: page(rate) };
