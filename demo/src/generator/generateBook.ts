import { type DemoCustomer, makeCustomers } from '../company/customers.ts';
import { chance, pick, type Random } from '../random.ts';
import { type History, type SimulatedProcess, simulateDeal } from './simulateDeal.ts';

export interface Book {
  readonly customers: readonly DemoCustomer[];
  readonly histories: readonly History[];
}

const DAY = 86_400_000;

/** A book of deals that began over the last two years: the more recent, the more of them. */
export function generateBook(
  random: Random,
  processes: readonly [SimulatedProcess, SimulatedProcess],
  smaller: readonly SimulatedProcess[],
  deals: number,
  now: number,
): Book {
  const customers = makeCustomers(random, Math.max(20, Math.round(deals / 3)), now - 730 * DAY);
  const begins = Array.from({ length: deals }, () => now - 730 * DAY * random() ** 1.55).sort((a, b) => a - b);
  const histories = begins
    .filter((begin) => begin < now - DAY / 2)
    .map((begin) =>
      simulateDeal(random, chance(random, 0.66) ? processes[0] : processes[1], pick(random, customers), begin, now),
    );
  // After the others, so that these stay as they are: beside them a tenth as many in each smaller process.
  const beside = smaller.flatMap((process) =>
    begins
      .filter((begin, place) => place % 10 === 0 && begin < now - DAY / 2)
      .map((begin) => simulateDeal(random, process, pick(random, customers), begin + DAY / 3, now)),
  );
  return { customers, histories: [...histories, ...beside] };
}
