import { endpoints } from '@ladder/contract';
import type { MoveTarget, StageId } from '@ladder/core';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { command, registerPress } from '../http/command.ts';
import { register, registerQuick } from '../http/register.ts';
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
  registerQuick(router, context, endpoints.getLanes, async ({ params, query, person }, look) =>
    reply(await getLanes(context, person, params.process, query, look)),
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
  registerQuick(router, context, endpoints.getDeal, async ({ params, query, person }, look) =>
    reply(await getDeal(context, person, params.deal, query.known?.split(',') ?? [], look)),
  );
  registerPress(router, context, endpoints.editDeal, (tx, { params, body, person }) =>
    changeDeal(context, tx, person, params.deal, body),
  );
  registerPress(router, context, endpoints.tickItem, (tx, { params, body, person }) =>
    tickDealItem(context, tx, person, params.deal, body),
  );
  registerPress(router, context, endpoints.takeResult, (tx, { params, body, person }) =>
    endStep(context, tx, person, params, body),
  );
  registerPress(router, context, endpoints.takeResultBack, (tx, { params, body, person }) =>
    takeStepBack(context, tx, person, params, body),
  );
  registerPress(router, context, endpoints.putStepOff, (tx, { params, body, person }) =>
    putStepOff(context, tx, person, params, body),
  );
  registerPress(router, context, endpoints.passStep, (tx, { params, body, person }) =>
    passStepOn(context, tx, person, params, body),
  );
  register(router, context, endpoints.previewMove, async ({ params, query, person }) =>
    reply(await askGate(context, person, params.deal, targetOf(query))),
  );
  registerPress(router, context, endpoints.moveDeal, (tx, { params, body, person }) =>
    makeMove(context, tx, person, params.deal, body),
  );
  registerPress(router, context, endpoints.takeBackMove, (tx, { params, body, person }) =>
    takeMoveBack(context, tx, person, params.deal, body),
  );
  registerPress(router, context, endpoints.withdrawAttempt, (tx, { params, person }) =>
    giveUpAttempt(context, tx, person, params.deal),
  );
  registerPress(router, context, endpoints.changeFollowUp, (tx, { params, body, person }) =>
    setFollowUp(context, tx, person, params.deal, body),
  );
  registerPress(router, context, endpoints.addActivity, (tx, { params, body, person }) =>
    addActivity(context, tx, person, params.deal, body),
  );
  register(router, context, endpoints.voidDeal, (input) =>
    command(context, input, (tx) => voidOneDeal(context, tx, input.person, input.params.deal, input.body)),
  );
  register(router, context, endpoints.reopenDeal, (input) =>
    command(context, input, (tx) => reopenClosedDeal(context, tx, input.person, input.params.deal, input.body)),
  );
  registerPress(router, context, endpoints.addTask, (tx, { params, body, person }) =>
    addDealTask(context, tx, person, params.deal, body),
  );
  registerPress(router, context, endpoints.useTaskSet, (tx, { params, body, person }) =>
    addDealTaskSet(context, tx, person, params.deal, body),
  );
  registerPress(router, context, endpoints.endTask, (tx, { params, body, person }) =>
    endDealTask(context, tx, person, params, body),
  );
  registerPress(router, context, endpoints.reopenTask, (tx, { params, person }) =>
    reopenDealTask(context, tx, person, params),
  );
  registerPress(router, context, endpoints.putTaskOff, (tx, { params, body, person }) =>
    putDealTaskOff(context, tx, person, params, body),
  );
  registerPress(router, context, endpoints.passTask, (tx, { params, body, person }) =>
    passDealTask(context, tx, person, params, body),
  );
  registerPress(router, context, endpoints.renameTask, (tx, { params, body, person }) =>
    renameDealTask(context, tx, person, params, body),
  );
  registerPress(router, context, endpoints.askWaiver, (tx, { params, body, person }) =>
    askForWaiver(context, tx, person, params.deal, body),
  );
  register(router, context, endpoints.getWaiver, async ({ params, person }) =>
    reply(await getWaiverToDecide(context, person, params)),
  );
  registerPress(router, context, endpoints.decideWaiver, (tx, { params, body, person }) =>
    decideOnWaiver(context, tx, person, params, body),
  );
  registerPress(router, context, endpoints.withdrawWaiver, (tx, { params, person }) =>
    withdrawOwnWaiver(context, tx, person, params),
  );
  registerPress(router, context, endpoints.revokeWaiver, (tx, { params, body, person }) =>
    revokeOwnWaiver(context, tx, person, params, body),
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
