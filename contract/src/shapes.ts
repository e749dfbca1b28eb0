import type { Shape, Shapes } from '@ladder/core';
import { criterion } from './criteria.ts';
import { facts } from './facts.ts';
import { day, id, integer, key, list, nullable, object, oneOf, optional, type Schema, text } from './schema.ts';

/** The schema of a value of that shape. */
export function schemaOf(shape: Shape): Schema<unknown> {
  switch (shape.is) {
    case 'key':
      return key();
    case 'id':
      return id();
    case 'name':
      return text();
    case 'words':
      return text({ min: 0, max: shape.most });
    case 'one_of':
      return oneOf(shape.values);
    case 'count':
      return integer(1);
    case 'tally':
      return integer(0);
    case 'day':
      return day();
    case 'fact':
      return facts.value;
    case 'criterion':
      return criterion;
    case 'list':
      return list(schemaOf(shape.of));
    case 'parts':
      return object(schemasOf(shape.of));
    case 'or_none':
      return nullable(schemaOf(shape.of));
    case 'maybe':
      return optional(schemaOf(shape.of));
  }
}

/** The schemas of a record's parts. */
export const schemasOf = (shapes: Shapes): Readonly<Record<string, Schema<unknown>>> =>
  Object.fromEntries(Object.entries(shapes).map(([name, shape]) => [name, schemaOf(shape)]));
