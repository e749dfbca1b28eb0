import { BUILT_IN_FIELDS, type Catalogue, catalogueOf, type Field, type FieldHolder } from '@ladder/core';
import { type Connection, sql } from '../db/sql.ts';

/** The present catalogue: built-in fields, then the administrator's own. */
export async function presentCatalogue(connection: Connection): Promise<Catalogue> {
  const rows = await sql<{ definition: Field }>(connection, `select definition from fields order by place, id`);
  return catalogueOf([...BUILT_IN_FIELDS, ...rows.map(({ definition }) => definition)]);
}

/** The catalogue's fields of one holder. */
export async function fieldsOf(connection: Connection, holder: FieldHolder): Promise<Catalogue> {
  const all = await presentCatalogue(connection);
  return catalogueOf([...all.values()].filter((field) => field.holder === holder));
}
