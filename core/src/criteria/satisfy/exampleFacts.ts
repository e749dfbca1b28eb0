import { NO_ACTIVITY } from '../../facts/activityKind.ts';
import type { FactValue, Values } from '../../facts/value.ts';
import type { Operand } from '../criterion.ts';
import type { Facts } from '../facts.ts';

/** What an operand is, in an example. */
export interface Given {
  readonly operand: Operand;
  readonly value: FactValue;
}

type StepResults = Record<string, { result: string; day: string }>;

/** Facts of a deal of which just this is known, on a day (whole days since 1970-01-01). No exchange rate is set. */
export function exampleFacts(given: readonly Given[], today: number): Facts {
  const values: Record<string, FactValue> = {};
  const counts = { stay: { ...NO_ACTIVITY }, ever: { ...NO_ACTIVITY } };
  const unrecorded = new Set<string>();
  const documents: Record<string, number> = {};
  const steps: Record<string, { result: FactValue; day: FactValue }> = {};
  const journey = { days_in_stage: 0, days_since_activity: 0, close_date_moves: 0 };
  for (const { operand, value } of given) {
    switch (operand.of) {
      case 'field':
        values[operand.field] = value;
        break;
      case 'journey':
        journey[operand.fact] = Number(value);
        break;
      case 'step':
        steps[operand.step] = { ...(steps[operand.step] ?? { result: null, day: null }), [operand.what]: value };
        break;
      case 'activities':
        if (value === null) unrecorded.add(operand.within);
        else counts[operand.within] = { ...counts[operand.within], [operand.activity]: Number(value) };
        break;
      case 'documents':
        if (value === null) unrecorded.add('documents');
        else documents[operand.document] = Number(value);
        break;
    }
  }
  return {
    values: values as Values,
    enteredDay: today - journey.days_in_stage,
    lastActivityDay: today - journey.days_since_activity,
    closeDateMoves: journey.close_date_moves,
    activityCounts: {
      stay: unrecorded.has('stay') ? null : counts.stay,
      ever: unrecorded.has('ever') ? null : counts.ever,
    },
    documentCounts: unrecorded.has('documents') ? null : documents,
    stepResults: steps as StepResults,
    today,
    rateOf: () => undefined,
    currencyOf: { deal: '', customer: '', contact: '' },
  };
}
