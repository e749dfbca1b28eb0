import { pick, type Random, seededId } from '../random.ts';

export interface DemoCustomer {
  readonly id: string;
  readonly name: string;
  readonly kind: 'grower' | 'botanic_garden' | 'school';
}

const PLACES = [
  'Fennick',
  'Saltmarsh',
  'Culverhay',
  'Draymoor',
  'Corran',
  'Penmarrow',
  'Gannet Bay',
  'Wexcombe',
  'Ivelbrook',
  'Cambermere',
  'Rushy Mead',
  'Stanmere',
  'Tidewell',
  'Larkhollow',
  'Eastrig',
  'Pellow',
  'Northgarth',
  'Brackwell',
  'Dunmere',
  'Millrace',
  'Kestrel Row',
  'Fallow End',
  'Tarnfoot',
  'Marram',
  'Ormeby',
  'Halsewick',
  'Beckside',
  'Yarrowdale',
  'Thornfield',
  'Linden Rise',
  'Ashby Fen',
  'Hexcombe',
  'Quarrybank',
  'Oakhanger',
  'Mossy Lane',
  'Brightwater',
  'Wicklow End',
  'Ardenfold',
  'Cotterlow',
  'Sallowford',
] as const;
const GROWN = [
  'Salads',
  'Nursery',
  'Orchids',
  'Cress',
  'Herbs',
  'Peppers',
  'Vines',
  'Berries',
  'Roses',
  'Tomatoes',
  'Flowers',
  'Microgreens',
  'Cucumbers',
  'Chard',
  'Ferns',
] as const;

/** Invented customers: growers for most of the book, gardens and schools for the rest. */
export function makeCustomers(random: Random, count: number, at: number): readonly DemoCustomer[] {
  const names = new Set<string>();
  const customers: DemoCustomer[] = [];
  while (customers.length < count) {
    const kind = pick(random, ['grower', 'grower', 'grower', 'grower', 'botanic_garden', 'school'] as const);
    const tail = kind === 'grower' ? pick(random, GROWN) : kind === 'school' ? 'School' : 'Botanic Garden';
    const plain = `${pick(random, PLACES)} ${tail}`;
    const name = names.has(plain) ? `${plain} ${customers.length}` : plain;
    names.add(name);
    customers.push({ id: seededId(random, at), name, kind });
  }
  return customers;
}
