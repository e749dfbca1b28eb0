import type { Role } from '@ladder/contract';

export interface DemoTeam {
  readonly id: string;
  readonly name: string;
}

export interface DemoPerson {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly title: string;
  readonly role: Role;
  readonly teams: readonly string[];
}

const id = (kind: number, place: number): string =>
  `01900000-0000-7000-8000-0000000${kind}${String(place).padStart(4, '0')}`;

export const TEAMS: readonly DemoTeam[] = [
  { id: id(1, 1), name: 'Growers North' },
  { id: id(1, 2), name: 'Growers South' },
  { id: id(1, 3), name: 'Public gardens' },
];

const [NORTH, SOUTH, GARDENS] = TEAMS.map((team) => team.id) as [string, string, string];
const person = (place: number, name: string, title: string, role: Role, teams: readonly string[]): DemoPerson => ({
  id: id(2, place),
  name,
  title,
  role,
  teams,
  email: `${name.split(' ')[0]?.toLowerCase()}@hollin-marsh.example`,
});

export const PEOPLE: readonly DemoPerson[] = [
  person(1, 'Maren Holt', 'Sales operations', 'administrator', []),
  person(2, 'Tomas Verhey', 'Manager', 'manager', [NORTH, SOUTH, GARDENS]),
  person(3, 'Priya Nandan', 'Seller, Growers North', 'seller', [NORTH]),
  person(4, 'Oskar Lind', 'Seller, Growers North', 'seller', [NORTH]),
  person(5, 'Bea Ferrant', 'Seller, Growers South', 'seller', [SOUTH]),
  person(6, 'Jun Aoki', 'Seller, Growers South', 'seller', [SOUTH]),
  person(7, 'Ravi Castell', 'Seller, Public gardens', 'seller', [GARDENS]),
  person(8, 'Maud Ellery', 'Seller, Public gardens', 'seller', [GARDENS]),
  person(9, 'Lena Ros', 'Viewer', 'viewer', []),
];

export const ADMINISTRATOR = PEOPLE[0] as DemoPerson;
export const SELLERS: readonly DemoPerson[] = PEOPLE.filter(({ role }) => role === 'seller');
