import { expect, it } from 'vitest';
import { recordActivity } from '../commands/activity.ts';
import { moveDeal } from '../commands/move.ts';
import { canTakeBack } from '../commands/takeBack.ts';
import { tickItem } from '../commands/tick.ts';
import type { StageId } from '../ids.ts';
import { DAY, dealIn, documentOf, must, NOW, settingOf, stage } from '../testing/builders.ts';
import { type Actor, actor, OTHER_ACTORS, personActor, personOf, readActor } from './actor.ts';

const ID = '01900000-0000-7000-8000-000000000001';

it.each([personActor(ID), ...OTHER_ACTORS.map((kind) => actor(kind, ID))])('%s is read back as who acts', (who) => {
  const { kind, id } = readActor(who);
  expect(id).toBe(ID);
  expect(kind === 'person' ? personActor(id) : actor(kind, id)).toBe(who);
  expect(personOf(who)).toBe(kind === 'person' ? ID : null);
});

const tick = { id: 'tick', text: 'Called', need: 'must', level: 'hold', afterReturn: 'keep' } as const;
const setting = settingOf(documentOf([stage('a', { checklist: [tick] }), stage('b')]));
const at = (by: Actor, when: number) => ({ by, happenedAt: when, recordedAt: when });

it.each(OTHER_ACTORS)('%s works a deal as a person does, and its move is taken back by no maker but itself', (kind) => {
  const who = actor(kind, ID);
  const ticked = must(tickItem(dealIn(setting), setting, 'tick', 'ticked', at(who, NOW))).deal;
  const noted = recordActivity(ticked, setting, 'note', 'Due.', at(who, NOW));
  const request = {
    target: { to: 'stage', stage: 'b' as StageId },
    mode: 'ask',
    text: null,
    reason: null,
    followUp: null,
  } as const;
  const { change } = must(moveDeal(noted.deal, setting, request, at(who, NOW + DAY)));
  const doers = [...noted.records, ...change.records].flatMap((record) =>
    record.kind === 'journal' ? [record.entry.by] : record.kind === 'move' ? [record.move.by] : [],
  );
  expect(new Set(doers)).toEqual(new Set([who]));
  expect(change.deal.path.at(-1)?.by).toBe(who);
  const may = (id: Actor, rank: 'maker' | 'manager') => canTakeBack(change.deal, setting, { id, rank }, NOW + DAY).ok;
  expect([may(personActor(ID), 'maker'), may(who, 'maker'), may(personActor(ID), 'manager')]).toEqual([
    false,
    true,
    true,
  ]);
});
