import type { today as contract, TypeOf } from '@ladder/contract';
import {
  type Change,
  changeBy,
  type Deal,
  type DealId,
  type Moment,
  passStepOn,
  passTaskStep,
  type Setting,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import type { Context } from '../context.ts';
import { changeEach } from '../deals/changeEach.ts';
import { holderOf } from '../deals/holder.ts';
import { runProblem } from '../deals/steps.ts';
import { taskProblem } from '../deals/tasks.ts';
import type { Reply } from '../http/reply.ts';
import type { Person } from '../session/person.ts';

type HandOver = TypeOf<typeof contract.handOver>;
type Item = HandOver['items'][number];

/** Passes steps and tasks of several deals to one person: all of them, or none. */
export async function handOver(
  context: Context,
  tx: EntityManager,
  person: Person,
  { person: to, items }: HandOver,
): Promise<Reply> {
  const mayHold = await holderOf(tx, to, '/person');
  const ids = [...new Set(items.map(({ deal }) => deal))];
  await changeEach(context, tx, person, ids, (deal, setting, moment) => {
    mayHold(deal);
    return passAll(deal, setting, itemsOf(items, deal.id), to, moment);
  });
  return { body: { items: items.length } };
}

const itemsOf = (items: readonly Item[], id: DealId): readonly Item[] => items.filter(({ deal }) => deal === id);

function passAll(before: Deal, setting: Setting, items: readonly Item[], to: string, moment: Moment): Change {
  return items.reduce<Change>(
    ({ deal, records }, item) => {
      const change = passOne(deal, setting, item, to, moment);
      return { deal: change.deal, records: [...records, ...change.records] };
    },
    { deal: before, records: [] },
  );
}

function passOne(deal: Deal, setting: Setting, item: Item, to: string, moment: Moment): Change {
  if (item.kind === 'step') {
    const passed = changeBy(deal, setting, moment, passStepOn(item.run, to));
    if (!passed.ok) throw runProblem(passed.error);
    return passed.value;
  }
  const passed = changeBy(deal, setting, moment, passTaskStep(item.task, to));
  if (!passed.ok) throw taskProblem(passed.error);
  return passed.value;
}
