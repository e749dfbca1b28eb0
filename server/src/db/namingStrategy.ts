import { DefaultNamingStrategy } from 'typeorm';

/** Columns are called in the database as in the program, in its writing: `nameFold` is `name_fold`. */
export class SnakeCase extends DefaultNamingStrategy {
  override columnName(property: string, custom: string | undefined, prefixes: string[]): string {
    return custom ?? [...prefixes, property].join('_').replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);
  }
}
