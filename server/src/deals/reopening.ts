import type { deal as contract, TypeOf } from '@ladder/contract';
import { type Deal, type DealId, type ReopenProblem, reopenDeal } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { requireChange } from '../access/dealAccess.ts';
import type { Context } from '../context.ts';
import { inOrder } from '../db/inOrder.ts';
import type { Reply } from '../http/reply.ts';
import { invalid, notFound, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { lockProcess } from '../setting/repository/lockProcess.ts';
import { type KnownSetting, loadSetting } from '../setting/repository/settings.ts';
import { liveVersion, versionName } from '../setting/repository/versions.ts';
import { loadDeal, lockDeals } from './repository/loadDeals.ts';
import { momentNow, openWholeDeal, writeAndPresent } from './runCommand.ts';

/** A manager opens a closed deal again. It goes on in the version it closed in, or in the live one where that is past (S65). */
export async function reopenClosedDeal(
  context: Context,
  tx: EntityManager,
  person: Person,
  id: DealId,
  { text }: TypeOf<typeof contract.why>,
): Promise<Reply> {
  const seen = await loadDeal(tx, id, []);
  if (!seen) throw notFound('deal');
  // As with a deal that is begun: no publish comes between the choice of the version and the deal that follows it.
  await lockProcess(tx, seen.deal.process, 'begin');
  const [, { deal, setting }] = await inOrder(lockDeals(tx, [id]), openWholeDeal(tx, person, id));
  requireChange(person, deal);
  const into = await settingToGoOnIn(tx, deal, setting);
  const reopened = reopenDeal(deal, into, text, momentNow(context, person));
  if (!reopened.ok) throw reopenProblem(reopened.error);
  return { body: await writeAndPresent(context, tx, person, { before: deal, change: reopened.value }, into) };
}

async function settingToGoOnIn(tx: EntityManager, deal: Deal, own: KnownSetting): Promise<KnownSetting> {
  if ((await versionName(tx, deal.version)).state !== 'past') return own;
  const live = await liveVersion(tx, deal.process);
  return live ? loadSetting(tx, live.id) : own;
}

function reopenProblem({ code }: ReopenProblem): Problem {
  switch (code) {
    case 'not_closed':
      return new Problem(409, 'Only a deal that was closed as won or lost can be reopened.');
    case 'text_needed':
      return invalid([{ pointer: '/text', detail: 'Say why it goes on.' }], 422);
    case 'no_stage_left':
      return new Problem(
        409,
        'The process has none of the stages left in which this deal was. Begin a new deal instead.',
      );
  }
}
