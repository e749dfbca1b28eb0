import { BUILT_IN_FIELDS, type Catalogue, catalogueOf, type FieldHolder } from '@ladder/core';
import type { Connection } from '../db/sql.ts';
import { fieldDefinitions } from './repository.ts';

/** The present catalogue: built-in fields, then the administrator's own. */
export async function presentCatalogue(connection: Connection): Promise<Catalogue> {
  const rows = await fieldDefinitions(connection);
  return catalogueOf([...BUILT_IN_FIELDS, ...rows.map(({ definition }) => definition)]);
}

/** The catalogue's fields of one holder. */
export async function fieldsOf(connection: Connection, holder: FieldHolder): Promise<Catalogue> {
  const all = await presentCatalogue(connection);
  return catalogueOf([...all.values()].filter((field) => field.holder === holder));
}
