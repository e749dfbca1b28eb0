import { describe, expect, it } from 'vitest';
import { personActor } from '../deals/actor.ts';
import type { Deal } from '../deals/deal.ts';
import { openTasks } from '../deals/parts/tasks.ts';
import type { Setting } from '../deals/setting.ts';
import type { StageId } from '../ids.ts';
import { type TaskFates, USUAL_TASK_FATES } from '../tasks/task.ts';
import type { SetTask, TaskSet } from '../tasks/taskSet.ts';
import { at, DAY, dealIn, documentOf, LOST, must, NOW, settingOf, stage } from '../testing/builders.ts';
import { guided, result } from '../testing/steps.ts';
import { goOnByItself } from './goOnByItself.ts';
import { moveDeal } from './move.ts';
import { takeBack } from './takeBack.ts';
import { takeResult } from './takeResult.ts';
import { canTakeResultBack, takeResultBack } from './takeResultBack.ts';
import { addTaskSet } from './taskSets.ts';
import { addTask, endTask, passTask, putTaskOff, renameTask, reopenTask } from './tasks.ts';

const setTask = (id: string, more: Partial<SetTask> = {}): SetTask => ({
  id,
  title: id,
  who: { by: 'owner' },
  due: { days: 2, counting: 'working' },
  ...more,
});
const VISIT: TaskSet = {
  id: 'visit',
  name: 'Before a visit',
  afterReturn: 'keep',
  tasks: [setTask('map'), setTask('hotel', { who: { by: 'nobody' }, due: { days: 0, counting: 'calendar' } })],
};
const PRICE: TaskSet = { id: 'price', name: 'Before the price', afterReturn: 'again', tasks: [setTask('steel')] };

const processOf = (taskFates: TaskFates = USUAL_TASK_FATES): Setting =>
  settingOf(
    documentOf(
      [
        stage('a'),
        stage('b', {
          arrival: [{ do: 'add_tasks', set: 'visit' }],
          steps: [
            guided('cost', {
              results: [result('costed', { to: 'finish' }, { actions: [{ do: 'add_tasks', set: 'price' }] })],
            }),
          ],
        }),
        stage('c'),
      ],
      { taskSets: [VISIT, PRICE], returns: 'allow' },
    ),
    { taskFates },
  );
const SETTING = processOf();
const RING = { title: ' Ring back ', assignee: 'priya', dueDay: '2026-11-26', dueTime: '14:00' };

const withTask = (deal: Deal, setting = SETTING): Deal => must(addTask(deal, setting, RING, at(NOW))).deal;
const move = (
  deal: Deal,
  to: string,
  more: Partial<Parameters<typeof moveDeal>[2]> = {},
  setting = SETTING,
  when = NOW,
) =>
  moveDeal(
    deal,
    setting,
    { target: { to: 'stage', stage: to as StageId }, mode: 'ask', text: 'why', reason: null, followUp: null, ...more },
    at(when),
  );
const moved = (...asked: Parameters<typeof move>): Deal => must(move(...asked)).change.deal;
const titles = (deal: Deal): readonly string[] => openTasks(deal).map(({ title }) => title);
const lastStep = (deal: Deal) => deal.path.at(-1) ?? expect.fail('no move');

describe('a task', () => {
  it('is added, put off with a reason, passed, called otherwise, done and done again, and changes nothing that a gate reads', () => {
    const deal = dealIn(SETTING);
    const added = must(addTask(deal, SETTING, RING, at(NOW)));
    expect(added.deal.tasks).toMatchObject([{ seq: 1, title: 'Ring back', end: null, origin: null }]);
    expect(added.records).toMatchObject([
      { entry: { body: { kind: 'task_added', due: '2026-11-26' }, text: 'Ring back' } },
    ]);
    const off = must(
      putTaskOff(added.deal, SETTING, 1, { day: '2026-12-01', time: null, text: 'They are away' }, at(NOW)),
    );
    expect(off.records).toMatchObject([
      { entry: { body: { kind: 'task_put_off', before: '2026-11-26', after: '2026-12-01' }, text: 'They are away' } },
    ]);
    const passed = must(passTask(off.deal, SETTING, 1, null, at(NOW)));
    const named = must(renameTask(passed.deal, SETTING, 1, 'Ring them', at(NOW)));
    const done = must(endTask(named.deal, SETTING, 1, 'done', at(NOW + DAY)));
    expect(done.deal.tasks).toMatchObject([
      {
        title: 'Ring them',
        assignee: null,
        dueDay: '2026-12-01',
        dueTime: null,
        end: { how: 'done', day: '2026-11-25' },
      },
    ]);
    const again = must(reopenTask(done.deal, SETTING, 1, at(NOW + DAY)));
    expect(titles(again.deal)).toEqual(['Ring them']);
    expect(again.deal.revision).toBe(deal.revision);
    expect(again.deal.findings).toEqual(deal.findings);
  });

  it('is refused where it says nothing, lies back, or is not there', () => {
    const deal = withTask(dealIn(SETTING));
    const done = must(endTask(deal, SETTING, 1, 'done', at(NOW))).deal;
    const late = { day: '2026-11-23', time: null, text: 'Because' };
    const code = (answer: { ok: boolean; error?: { code: string } }) => (answer.ok ? 'ok' : answer.error?.code);
    expect(code(addTask(deal, SETTING, { ...RING, title: '  ' }, at(NOW)))).toBe('no_title');
    expect(code(putTaskOff(deal, SETTING, 1, late, at(NOW)))).toBe('in_the_past');
    expect(code(putTaskOff(deal, SETTING, 1, { ...late, day: '2026-11-24', text: ' ' }, at(NOW)))).toBe('text_needed');
    expect(code(endTask(deal, SETTING, 2, 'done', at(NOW)))).toBe('no_such_task');
    expect(code(endTask(done, SETTING, 1, 'done', at(NOW)))).toBe('ended');
    expect(code(reopenTask(deal, SETTING, 1, at(NOW)))).toBe('not_ended');
    const full = Array.from({ length: 99 }).reduce<Deal>((deals) => withTask(deals), deal);
    expect(code(addTask(full, SETTING, RING, at(NOW)))).toBe('too_many');
  });

  it('stays possible on a closed deal (S12)', () => {
    const lost = moved(dealIn(SETTING), '', { target: LOST });
    expect(titles(withTask(lost))).toEqual(['Ring back']);
    expect(addTaskSet(lost, SETTING, 'visit', at(NOW))).toMatchObject({ ok: false, error: { code: 'closed' } });
  });
});

describe('open tasks, as a deal moves', () => {
  it('are kept as it moves on, and asked for as it closes, where the process says nothing else (S58)', () => {
    const deal = withTask(dealIn(SETTING));
    expect(titles(moved(deal, 'c'))).toEqual(['Ring back']);
    expect(move(deal, '', { target: LOST })).toMatchObject({ ok: false, error: { code: 'tasks_needed' } });
    expect(titles(moved(deal, '', { target: LOST, tasks: 'keep' }))).toEqual(['Ring back']);
    expect(titles(moved(deal, '', { target: LOST, tasks: 'cancel' }))).toEqual([]);
    // Nothing to say where nothing is open.
    expect(moved(dealIn(SETTING), '', { target: LOST }).status.state).toBe('lost');
  });

  it.each(['forward', 'return', 'closing'] as const)('are cancelled where the process says so: %s', (kind) => {
    const setting = processOf({ ...USUAL_TASK_FATES, closing: 'keep', [kind]: 'cancel' });
    const target = { forward: { to: 'stage', stage: 'c' }, return: { to: 'stage', stage: 'a' }, closing: LOST }[kind];
    const deal = withTask(moved(dealIn(setting), 'b', {}, setting), setting);
    const answer = must(move(deal, '', { target: target as never, tasks: 'keep' }, setting));
    expect(titles(answer.change.deal)).toEqual([]);
    const told = answer.change.records.flatMap((record) => (record.kind === 'journal' ? [record.entry.body.kind] : []));
    expect(told).toEqual(['moved', 'task_ended', 'task_ended', 'task_ended']);
  });

  it('are open again once the move is taken back, and what its arrival had made is not', () => {
    const setting = processOf({ ...USUAL_TASK_FATES, forward: 'cancel' });
    const deal = withTask(dealIn(setting), setting);
    const there = moved(deal, 'b', {}, setting);
    expect(titles(there)).toEqual(['hotel', 'map']);
    const back = takeBack(there, setting, lastStep(there), at(NOW + 60_000), null);
    expect(titles(back.deal)).toEqual(['Ring back']);
    expect(back.deal.tasks.filter(({ end }) => end?.how === 'withdrawn')).toHaveLength(2);
    expect(titles(moved(back.deal, 'b', {}, setting, NOW + 120_000))).toEqual(['hotel', 'map']);
  });

  it('are kept by what moves a deal by itself, though a person would be asked', () => {
    const steps = [guided('wait', { results: [result('on', { to: 'move_on' })], byItself: { days: 1, result: 'on' } })];
    const setting = settingOf(documentOf([stage('a', { steps }), stage('b')]), {
      taskFates: { ...USUAL_TASK_FATES, forward: 'ask' },
    });
    const deal = withTask(dealIn(setting), setting);
    const gone = goOnByItself(deal, setting, at(NOW + DAY));
    expect([gone.deal.path.at(-1)?.to, titles(gone.deal)]).toEqual(['b', ['Ring back']]);
  });
});

describe('a set of tasks', () => {
  it('is used on arrival: due by working days, for the owner or nobody, with where it came from', () => {
    // A Tuesday; two working days on is a Thursday.
    const deal = moved(dealIn(SETTING), 'b');
    expect(deal.tasks).toMatchObject([
      { title: 'map', assignee: 'priya', dueDay: '2026-11-26', origin: { set: 'visit', item: 'map', moveSeq: 2 } },
      { title: 'hotel', assignee: null, dueDay: '2026-11-24', madeBy: personActor('priya') },
    ]);
  });

  it('is not made twice by a return, unless it says so (S58)', () => {
    const first = moved(dealIn(SETTING), 'b');
    const again = moved(moved(first, 'a'), 'b');
    expect(again.tasks).toHaveLength(2);
    const setting = {
      ...SETTING,
      document: { ...SETTING.document, taskSets: [{ ...VISIT, afterReturn: 'again' as const }] },
    };
    expect(moved(moved(first, 'a', {}, setting), 'b', {}, setting).tasks).toHaveLength(4);
  });

  it('is used by a result, and withdrawn with it where it is not done yet (S54)', () => {
    const deal = moved(dealIn(SETTING), 'b');
    const asked = { run: 1, result: 'costed', captures: [], text: null, reason: null, followUp: null };
    const taken = must(takeResult(deal, SETTING, asked, at(NOW))).change.deal;
    expect(titles(taken)).toEqual(['hotel', 'map', 'steel']);
    const back = must(canTakeResultBack(taken, SETTING, 1, { id: personActor('priya'), rank: 'maker' }, NOW));
    expect(titles(takeResultBack(taken, SETTING, back, at(NOW), null).deal)).toEqual(['hotel', 'map']);
    const done = must(endTask(taken, SETTING, 3, 'done', at(NOW))).deal;
    expect(takeResultBack(done, SETTING, back, at(NOW), null).deal.tasks[2]?.end?.how).toBe('done');
  });

  it('is added by hand as often as someone asks', () => {
    const once = must(addTaskSet(dealIn(SETTING), SETTING, 'price', at(NOW))).deal;
    expect(must(addTaskSet(once, SETTING, 'price', at(NOW))).deal.tasks).toHaveLength(2);
    expect(addTaskSet(once, SETTING, 'gone', at(NOW))).toMatchObject({ ok: false, error: { code: 'no_such_set' } });
  });
});

it('a next action goes with the move in one change, and stays where the move is held', () => {
  const edits = [
    { field: 'next_action', saw: null, value: 'Send the drawings' },
    { field: 'next_action_day', saw: null, value: '2026-12-01' },
  ];
  const deal = dealIn(SETTING);
  const { change } = must(move(deal, 'b', { edits }));
  expect(change.deal).toMatchObject({ values: { next_action: 'Send the drawings' }, revision: deal.revision + 1 });
  const held = settingOf(
    documentOf([
      stage('a'),
      stage('b', { enter: [{ id: 'r', level: 'hold', binds: 'must_stay', kind: 'field', field: 'value' }] }),
    ]),
  );
  const refused = must(move(dealIn(held), 'b', { edits }, held));
  expect([refused.result, refused.change.deal.values.next_action_day]).toEqual(['held', '2026-12-01']);
  expect(move(deal, 'b', { edits: [{ field: 'next_action_day', saw: null, value: '2026-02-30' }] })).toMatchObject({
    ok: false,
    error: { code: 'edits' },
  });
});
