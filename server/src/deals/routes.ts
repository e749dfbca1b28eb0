import { endpoints } from '@ladder/contract';
import type { MoveTarget, StageId } from '@ladder/core';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { command, quickCommand } from '../http/command.ts';
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
  registerQuick(router, context, endpoints.getDeal, async ({ params, query, person }, look) =>
    reply(await getDeal(context, person, params.deal, query.known?.split(',') ?? [], look)),
  );
  registerQuick(router, context, endpoints.editDeal, (input, look) =>
    quickCommand(context, input, look, (tx) => changeDeal(context, tx, input.person, input.params.deal, input.body)),
  );
  registerQuick(router, context, endpoints.tickItem, (input, look) =>
    quickCommand(context, input, look, (tx) => tickDealItem(context, tx, input.person, input.params.deal, input.body)),
  );
  registerQuick(router, context, endpoints.takeResult, (input, look) =>
    quickCommand(context, input, look, (tx) => endStep(context, tx, input.person, input.params, input.body)),
  );
  registerQuick(router, context, endpoints.takeResultBack, (input, look) =>
    quickCommand(context, input, look, (tx) => takeStepBack(context, tx, input.person, input.params, input.body)),
  );
  registerQuick(router, context, endpoints.putStepOff, (input, look) =>
    quickCommand(context, input, look, (tx) => putStepOff(context, tx, input.person, input.params, input.body)),
  );
  registerQuick(router, context, endpoints.passStep, (input, look) =>
    quickCommand(context, input, look, (tx) => passStepOn(context, tx, input.person, input.params, input.body)),
  );
  register(router, context, endpoints.previewMove, async ({ params, query, person }) =>
    reply(await askGate(context, person, params.deal, targetOf(query))),
  );
  registerQuick(router, context, endpoints.moveDeal, (input, look) =>
    quickCommand(context, input, look, (tx) => makeMove(context, tx, input.person, input.params.deal, input.body)),
  );
  registerQuick(router, context, endpoints.takeBackMove, (input, look) =>
    quickCommand(context, input, look, (tx) => takeMoveBack(context, tx, input.person, input.params.deal, input.body)),
  );
  registerQuick(router, context, endpoints.withdrawAttempt, (input, look) =>
    quickCommand(context, input, look, (tx) => giveUpAttempt(context, tx, input.person, input.params.deal)),
  );
  registerQuick(router, context, endpoints.changeFollowUp, (input, look) =>
    quickCommand(context, input, look, (tx) => setFollowUp(context, tx, input.person, input.params.deal, input.body)),
  );
  registerQuick(router, context, endpoints.addActivity, (input, look) =>
    quickCommand(context, input, look, (tx) => addActivity(context, tx, input.person, input.params.deal, input.body)),
  );
  register(router, context, endpoints.voidDeal, (input) =>
    command(context, input, (tx) => voidOneDeal(context, tx, input.person, input.params.deal, input.body)),
  );
  register(router, context, endpoints.reopenDeal, (input) =>
    command(context, input, (tx) => reopenClosedDeal(context, tx, input.person, input.params.deal, input.body)),
  );
  registerQuick(router, context, endpoints.addTask, (input, look) =>
    quickCommand(context, input, look, (tx) => addDealTask(context, tx, input.person, input.params.deal, input.body)),
  );
  registerQuick(router, context, endpoints.useTaskSet, (input, look) =>
    quickCommand(context, input, look, (tx) =>
      addDealTaskSet(context, tx, input.person, input.params.deal, input.body),
    ),
  );
  registerQuick(router, context, endpoints.endTask, (input, look) =>
    quickCommand(context, input, look, (tx) => endDealTask(context, tx, input.person, input.params, input.body)),
  );
  registerQuick(router, context, endpoints.reopenTask, (input, look) =>
    quickCommand(context, input, look, (tx) => reopenDealTask(context, tx, input.person, input.params)),
  );
  registerQuick(router, context, endpoints.putTaskOff, (input, look) =>
    quickCommand(context, input, look, (tx) => putDealTaskOff(context, tx, input.person, input.params, input.body)),
  );
  registerQuick(router, context, endpoints.passTask, (input, look) =>
    quickCommand(context, input, look, (tx) => passDealTask(context, tx, input.person, input.params, input.body)),
  );
  registerQuick(router, context, endpoints.renameTask, (input, look) =>
    quickCommand(context, input, look, (tx) => renameDealTask(context, tx, input.person, input.params, input.body)),
  );
  registerQuick(router, context, endpoints.askWaiver, (input, look) =>
    quickCommand(context, input, look, (tx) => askForWaiver(context, tx, input.person, input.params.deal, input.body)),
  );
  register(router, context, endpoints.getWaiver, async ({ params, person }) =>
    reply(await getWaiverToDecide(context, person, params)),
  );
  registerQuick(router, context, endpoints.decideWaiver, (input, look) =>
    quickCommand(context, input, look, (tx) => decideOnWaiver(context, tx, input.person, input.params, input.body)),
  );
  registerQuick(router, context, endpoints.withdrawWaiver, (input, look) =>
    quickCommand(context, input, look, (tx) => withdrawOwnWaiver(context, tx, input.person, input.params)),
  );
  registerQuick(router, context, endpoints.revokeWaiver, (input, look) =>
    quickCommand(context, input, look, (tx) => revokeOwnWaiver(context, tx, input.person, input.params, input.body)),
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
