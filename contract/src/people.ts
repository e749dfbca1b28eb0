import {
  day,
  described,
  id,
  integer,
  list,
  named,
  nullable,
  object,
  oneOf,
  optional,
  page,
  processId,
  text,
  yesNo,
} from './schema.ts';

export const ROLES = ['administrator', 'manager', 'seller', 'viewer'] as const;
export type Role = (typeof ROLES)[number];

const person = named('Person', object({ id: id(), name: text({ max: 200 }), role: oneOf(ROLES), teams: list(id()) }));
const password = text({ min: 10, max: 200 });
const email = text({ max: 320, pattern: /^[^\s@]+@[^\s@]+$/ });

const someone = object({ id: id(), name: text() });

const account = named(
  'Account',
  object({
    id: id(),
    name: text({ max: 200 }),
    email: text({ max: 320 }),
    role: oneOf(ROLES),
    teams: list(id()),
    active: yesNo(),
  }),
);

export const people = {
  person,
  account,
  accountPage: page(account),
  accountChange: object({
    name: optional(text({ max: 200 })),
    email: optional(email),
    role: optional(oneOf(ROLES)),
    teams: optional(list(id(), 100)),
    active: optional(yesNo()),
    password: optional(password),
  }),
  absence: named('Absence', object({ person: someone, from: day(), to: day(), substitute: someone })),
  newAbsence: object({ from: day(), to: described(day(), 'The last day.'), substitute: id() }),
  holdings: named(
    'Holdings',
    object({
      openDeals: integer(0),
      followUps: described(integer(0), 'Closed deals that are to be looked at again.'),
      others: described(integer(0), 'Deals of others on which something is theirs to do, or was asked for by them.'),
      tasks: integer(0),
      steps: integer(0),
      requests: described(integer(0), 'Waivers asked for and not decided.'),
      standIns: described(integer(0), 'People for whom they stand in.'),
      named: described(
        list(object({ process: object({ id: processId(), name: text() }), stage: text(), step: text() })),
        'Steps of live versions that name the person: someone else has to be named there first.',
      ),
    }),
  ),
  leaving: object({ to: described(id(), 'Who has all of it from now on.') }),
  team: named('Team', object({ id: id(), name: text({ max: 200 }) })),
  session: named(
    'Session',
    object({
      person: nullable(person),
      csrf: nullable(text()),
      organisation: object({ name: text(), timeZone: text(), currency: text({ max: 3 }), today: day() }),
    }),
  ),
  signIn: object({ email, password: text({ max: 200 }) }),
  ownPassword: object({ present: text({ max: 200 }), next: password }),
  offers: object({
    available: yesNo(),
    people: list(object({ name: text(), role: oneOf(ROLES), title: text(), email: text(), password: text() })),
  }),
  newPerson: object({
    name: text({ max: 200 }),
    email,
    role: oneOf(ROLES),
    teams: list(id(), 100),
    password,
  }),
  newTeam: object({ name: text({ max: 200 }) }),
  peoplePage: page(person),
};
