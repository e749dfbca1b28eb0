import type { StageId, Standing } from '@ladder/core';
import { EntitySchema } from 'typeorm';

/** What open deals are told apart by when they are added up, under a number that the states have which are so. PostgreSQL writes it. */
export interface StateShapeRow {
  number: number;
  currency: string;
  stageId: StageId;
  standing: Standing;
  kinds: string;
}

export const StateShapeEntity = new EntitySchema<StateShapeRow>({
  name: 'stateShape',
  tableName: 'state_shapes',
  columns: {
    number: { type: 'integer', primary: true, generated: 'increment' },
    currency: { type: 'char', length: 3 },
    stageId: { type: 'text', collation: 'C' },
    standing: { type: 'text' },
    kinds: { type: 'text', collation: 'C' },
  },
  checks: [{ name: 'state_shapes_number_check', expression: '(number < (1 << 25))' }],
  indices: [{ name: 'state_shapes_by_text', synchronize: false }],
});
