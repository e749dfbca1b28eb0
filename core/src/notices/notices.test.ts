import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { recordActivity } from '../commands/activity.ts';
import { addTask } from '../commands/tasks.ts';
import { at, dealIn, documentOf, must, NOW, settingOf, stage } from '../testing/builders.ts';
import { mentionsIn, withMentions } from './mentions.ts';
import { noticesOf } from './noticesOf.ts';

const PRIYA = { id: '01900000-0000-7000-8000-000000020003', name: 'Priya Nandan' };
const ANN = { id: '01900000-0000-7000-8000-000000020009', name: 'Ann' };
const ANNE = { id: '01900000-0000-7000-8000-00000002000a', name: 'Ann Example' };
const people = [ANN, PRIYA, ANNE];

describe('mentions in a note', () => {
  it('are links in Markdown, made of what was written, the longer name before the shorter', () => {
    const text = withMentions('Look, @Priya Nandan and @Ann Example: ask @Ann.', people);
    expect(text).toBe(
      `Look, [@Priya Nandan](person:${PRIYA.id}) and [@Ann Example](person:${ANNE.id}): ask [@Ann](person:${ANN.id}).`,
    );
    expect(mentionsIn(text)).toEqual([PRIYA.id, ANNE.id, ANN.id]);
  });

  it('are nobody’s in an address, a longer word, or what is one already', () => {
    for (const text of ['mail@Ann', '@Anna', '@ann', `[@Ann](person:${ANN.id})`])
      expect(withMentions(text, people)).toBe(text);
    expect(mentionsIn('[@Ann](person:ann) [Ann](person:01900000-0000-7000-8000-000000020009)')).toEqual([]);
  });

  it('are found whatever stands around them, and a second making changes nothing', () => {
    fc.assert(
      fc.property(fc.string(), fc.string(), (before, after) => {
        const made = withMentions(`${before} @Priya Nandan ${after}`, people);
        expect(mentionsIn(made)).toContain(PRIYA.id);
        expect(withMentions(made, people)).toBe(made);
      }),
    );
  });
});

describe('what a change tells people (S63)', () => {
  const setting = settingOf(documentOf([stage('a')]));
  const deal = dealIn(setting);

  it('tells whom a note mentions, and whoever watches the deal', () => {
    const note = `Ask [@Ann](person:${ANN.id})`;
    expect(noticesOf(recordActivity(deal, setting, 'note', note, at(NOW)))).toMatchObject([
      { kind: 'mentioned', for: { who: 'person', person: ANN.id }, event: 'activity', by: 'priya' },
      { kind: 'watched', for: { who: 'watchers' } },
    ]);
  });

  it('tells to whom a task falls, one thing a task; nobody of one that is nobody’s', () => {
    const task = { title: 'Ring', dueDay: '2026-12-01', dueTime: null };
    const first = must(addTask(deal, setting, { ...task, assignee: ANN.id }, at(NOW)));
    const second = must(addTask(first.deal, setting, { ...task, assignee: ANN.id }, at(NOW)));
    const kinds = [first, second].map((change) => noticesOf(change)[0]);
    expect(kinds.map((one) => one?.kind)).toEqual(['assigned', 'assigned']);
    expect(new Set(kinds.map((one) => one?.about)).size).toBe(2);
    const nobodys = must(addTask(deal, setting, { ...task, assignee: null }, at(NOW)));
    expect(noticesOf(nobodys).map(({ kind }) => kind)).toEqual(['watched']);
  });
});
