import { endpoints } from '@ladder/contract';
import type { MoveTarget, StageId } from '@ladder/core';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { command } from '../http/command.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { invalid } from '../problems/problem.ts';
import { eraseText } from './eraseText.ts';
import { listJournal } from './journal.ts';
import { getLanes } from './lanes.ts';
import { listDeals } from './list.ts';
import { askGate, giveUpAttempt, makeMove, takeMoveBack } from './moves.ts';
import { reassignDeals } from './reassigning.ts';
import { reopenClosedDeal } from './reopening.ts';
import { addActivity, addDeal, changeDeal, getDeal, setFollowUp, tickDealItem } from './service.ts';
import { endStep, passStepOn, putStepOff, takeStepBack } from './steps.ts';
import {
  addDealTask,
  addDealTaskSet,
  endDealTask,
  passDealTask,
  putDealTaskOff,
  renameDealTask,
  reopenDealTask,
} from './tasks.ts';
import { voidOneDeal } from './voiding.ts';
import { askForWaiver, decideOnWaiver, getWaiverToDecide, revokeOwnWaiver, withdrawOwnWaiver } from './waivers.ts';

export function dealRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.getLanes, async ({ params, query, person }) =>
    reply(await getLanes(context, person, params.process, query)),
  );
  register(router, context, endpoints.listDeals, async ({ query, person }) =>
    reply(await listDeals(context, person, query)),
  );
  register(router, context, endpoints.addDeal, (input) =>
    command(context, input, (tx) => addDeal(context, tx, input.person, input.body)),
  );
  register(router, context, endpoints.reassignDeals, (input) =>
    command(context, input, (tx) => reassignDeals(context, tx, input.person, input.body)),
  );
  register(router, context, endpoints.getDeal, async ({ params, query, person }) =>
    reply(await getDeal(context, person, params.deal, query.known?.split(',') ?? [])),
  );
  register(router, context, endpoints.editDeal, (input) =>
    command(context, input, (tx) => changeDeal(context, tx, input.person, input.params.deal, input.body)),
  );
  register(router, context, endpoints.tickItem, (input) =>
    command(context, input, (tx) => tickDealItem(context, tx, input.person, input.params.deal, input.body)),
  );
  register(router, context, endpoints.takeResult, (input) =>
    command(context, input, (tx) => endStep(context, tx, input.person, input.params, input.body)),
  );
  register(router, context, endpoints.takeResultBack, (input) =>
    command(context, input, (tx) => takeStepBack(context, tx, input.person, input.params, input.body)),
  );
  register(router, context, endpoints.putStepOff, (input) =>
    command(context, input, (tx) => putStepOff(context, tx, input.person, input.params, input.body)),
  );
  register(router, context, endpoints.passStep, (input) =>
    command(context, input, (tx) => passStepOn(context, tx, input.person, input.params, input.body)),
  );
  register(router, context, endpoints.previewMove, async ({ params, query, person }) =>
    reply(await askGate(context, person, params.deal, targetOf(query))),
  );
  register(router, context, endpoints.moveDeal, (input) =>
    command(context, input, (tx) => makeMove(context, tx, input.person, input.params.deal, input.body)),
  );
  register(router, context, endpoints.takeBackMove, (input) =>
    command(context, input, (tx) => takeMoveBack(context, tx, input.person, input.params.deal, input.body)),
  );
  register(router, context, endpoints.withdrawAttempt, (input) =>
    command(context, input, (tx) => giveUpAttempt(context, tx, input.person, input.params.deal)),
  );
  register(router, context, endpoints.changeFollowUp, (input) =>
    command(context, input, (tx) => setFollowUp(context, tx, input.person, input.params.deal, input.body)),
  );
  register(router, context, endpoints.addActivity, (input) =>
    command(context, input, (tx) => addActivity(context, tx, input.person, input.params.deal, input.body)),
  );
  register(router, context, endpoints.voidDeal, (input) =>
    command(context, input, (tx) => voidOneDeal(context, tx, input.person, input.params.deal, input.body)),
  );
  register(router, context, endpoints.reopenDeal, (input) =>
    command(context, input, (tx) => reopenClosedDeal(context, tx, input.person, input.params.deal, input.body)),
  );
  register(router, context, endpoints.addTask, (input) =>
    command(context, input, (tx) => addDealTask(context, tx, input.person, input.params.deal, input.body)),
  );
  register(router, context, endpoints.useTaskSet, (input) =>
    command(context, input, (tx) => addDealTaskSet(context, tx, input.person, input.params.deal, input.body)),
  );
  register(router, context, endpoints.endTask, (input) =>
    command(context, input, (tx) => endDealTask(context, tx, input.person, input.params, input.body)),
  );
  register(router, context, endpoints.reopenTask, (input) =>
    command(context, input, (tx) => reopenDealTask(context, tx, input.person, input.params)),
  );
  register(router, context, endpoints.putTaskOff, (input) =>
    command(context, input, (tx) => putDealTaskOff(context, tx, input.person, input.params, input.body)),
  );
  register(router, context, endpoints.passTask, (input) =>
    command(context, input, (tx) => passDealTask(context, tx, input.person, input.params, input.body)),
  );
  register(router, context, endpoints.renameTask, (input) =>
    command(context, input, (tx) => renameDealTask(context, tx, input.person, input.params, input.body)),
  );
  register(router, context, endpoints.askWaiver, (input) =>
    command(context, input, (tx) => askForWaiver(context, tx, input.person, input.params.deal, input.body)),
  );
  register(router, context, endpoints.getWaiver, async ({ params, person }) =>
    reply(await getWaiverToDecide(context, person, params)),
  );
  register(router, context, endpoints.decideWaiver, (input) =>
    command(context, input, (tx) => decideOnWaiver(context, tx, input.person, input.params, input.body)),
  );
  register(router, context, endpoints.withdrawWaiver, (input) =>
    command(context, input, (tx) => withdrawOwnWaiver(context, tx, input.person, input.params)),
  );
  register(router, context, endpoints.revokeWaiver, (input) =>
    command(context, input, (tx) => revokeOwnWaiver(context, tx, input.person, input.params, input.body)),
  );
  register(router, context, endpoints.eraseText, (input) =>
    command(context, input, (tx) => eraseText(context, tx, input.person, input.params.deal, input.params.seq)),
  );
  register(router, context, endpoints.listJournal, async ({ params, query, person }) =>
    reply(await listJournal(context, person, params.deal, query)),
  );
}

interface TargetQuery {
  readonly to: MoveTarget['to'];
  readonly stage?: StageId;
  readonly outcome?: string;
}

function targetOf({ to, stage, outcome }: TargetQuery): MoveTarget {
  if (to === 'stage' && stage !== undefined) return { to, stage };
  if (to === 'outcome' && outcome !== undefined) return { to, outcome };
  throw invalid([{ pointer: `/query/${to}`, detail: `Name the ${to} to move to.` }]);
}
