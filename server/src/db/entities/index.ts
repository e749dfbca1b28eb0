import { CustomerEntity } from './customer.ts';
import { FieldEntity } from './field.ts';
import { PersonEntity } from './person.ts';
import { ProcessEntity } from './process.ts';
import { ProcessVersionEntity } from './processVersion.ts';
import { SessionEntity } from './session.ts';
import { TeamEntity } from './team.ts';

/** The tables that are read and written a row at a time; deals and their history are written as sets, in SQL. */
export const entities = [
  CustomerEntity,
  FieldEntity,
  PersonEntity,
  ProcessEntity,
  ProcessVersionEntity,
  SessionEntity,
  TeamEntity,
];
