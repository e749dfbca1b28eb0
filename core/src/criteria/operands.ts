import { ACTIVITY_WORDS } from '../facts/activityKind.ts';
import type { Catalogue, Field } from '../facts/field.ts';
import type { JourneyFact, Operand } from './criterion.ts';
import type { NameOf } from './phrase.ts';

const FACT_NAMES: Readonly<Record<JourneyFact, string>> = {
  days_in_stage: 'Days in the stage',
  days_since_activity: 'Days since the last activity',
  close_date_moves: 'Times the close date was moved',
};

/**
 * What a criterion reads, as if it were a field: by which type its values are compared, chosen and told. Null where the field is
 * gone from the catalogue.
 */
export function operandField(operand: Operand, catalogue: Catalogue, nameOf: NameOf): Field | null {
  const as = (id: string, name: string, type: Field['type']): Field => ({ id, name, holder: 'deal', type });
  switch (operand.of) {
    case 'field':
      return catalogue.get(operand.field) ?? null;
    case 'journey':
      return as(operand.fact, FACT_NAMES[operand.fact], 'number');
    case 'step': {
      const name = nameOf(operand.step) ?? 'a step that is gone';
      return operand.what === 'result'
        ? as(operand.step, `Result of ${name}`, 'choice')
        : as(operand.step, `Day on which ${name} ended`, 'date');
    }
    case 'activities': {
      const many = ACTIVITY_WORDS[operand.activity].many;
      return as(operand.activity, `Number of ${many}${operand.within === 'stay' ? ' in the stage' : ''}`, 'number');
    }
    case 'documents':
      return as(
        operand.document,
        `Number of documents: ${nameOf(operand.document) ?? 'a kind that is gone'}`,
        'number',
      );
  }
}
