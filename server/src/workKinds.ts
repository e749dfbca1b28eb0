import { calendarWork } from './calendars/recountWork.ts';
import { importWork } from './data/run.ts';
import { takeBackWork } from './data/takeBack.ts';
import { choiceWork } from './fields/mapChoice.ts';
import { formulaWork } from './fields/setFormula.ts';
import { leavingWork } from './leaving/leaving.ts';
import type { WorkKind } from './longWork/workKind.ts';
import { rateWork } from './money/service.ts';
import { publishWork } from './processes/publish.ts';
import { houseRulesWork } from './processes/service.ts';

/** Every kind of long work. */
export const workKinds: readonly WorkKind<never, never>[] = [
  importWork,
  takeBackWork,
  publishWork,
  houseRulesWork,
  rateWork,
  leavingWork,
  choiceWork,
  formulaWork,
  calendarWork,
];
