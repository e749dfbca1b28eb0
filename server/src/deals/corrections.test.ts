import { expect, it } from 'vitest';
import { dayOf, FIRST } from '../testing/daysGoneBy.ts';
import { DAY } from '../testing/movableClock.ts';
import { DOCUMENT, PEOPLE, saveAndPublish, startTestServer, TEAMS } from '../testing/testServer.ts';

/* What a deal was taken to be stands among its states: nothing that is asked of these, or done to them, takes one for the other. */

it('a deal that was said otherwise is published for, goes on and is voided as any other, and told by what was known', async () => {
  const test = await startTestServer();
  try {
    const hour = (place: number, ofDay: number): number => FIRST + place * DAY + ofDay * (DAY / 24);
    const at = async (place: number, ofDay: number) => {
      test.clock.set(hour(place, ofDay));
      return test.as('maren');
    };
    const publish = async (place: number, ofDay: number, deals: string): Promise<void> => {
      const maren = await at(place, ofDay);
      const stages = DOCUMENT.stages.map((stage) => ({ ...stage, idleDays: 1, name: `${stage.name} ${ofDay}` }));
      await maren.post(`/processes/${test.process}/draft`, undefined, 201);
      await saveAndPublish(maren, test.process, { ...DOCUMENT, stages }, { deals });
    };
    const asked = async (place: number, known = '') => {
      const maren = await test.as('maren');
      const { body } = await maren.get(`/processes/${test.process}/compliance?on=${dayOf(place)}${known}`);
      return { stages: body.stages, olderVersions: body.olderVersions };
    };

    const administrator = await at(0, 7);
    await administrator.patch(`/processes/${test.process}`, {
      houseRules: { past_target: 'off', idle: 'hold', close_date_past: 'off', no_next_action: 'off', step_late: 'off' },
    });
    await publish(0, 7.5, 'move_over');
    const values = { owner: PEOPLE.priya?.id, team: TEAMS.south };
    const begun = await (await at(0, 8)).post('/deals', { process: test.process, name: 'Deal', values }, 201);
    const deal = `/deals/${begun.body.id}`;
    await publish(2, 21, 'move_over');
    await publish(2, 22, 'stay');
    await at(2, 23.9);
    const said = await asked(2);

    const happenedAt = new Date(hour(2, 20)).toISOString();
    await (await at(3, 8)).post(`${deal}/activities`, { kind: 'call', text: 'Rang.', happenedAt }, 201);
    const known = await asked(2);
    expect(known.stages).not.toEqual(said.stages);
    expect([known.olderVersions, said.olderVersions]).toEqual([1, 1]);
    expect(await asked(2, '&known=then')).toEqual(said);

    const { body } = await (await at(8, 8)).get(deal);
    const edit = { changes: [{ field: 'crop', saw: body.values.crop ?? null, value: 'herbs' }] };
    await (await test.as('maren')).patch(deal, edit);
    const { body: journal } = await (await test.as('maren')).get(`${deal}/journal`);
    const publishes = journal.items.filter(({ kind }: { kind: string }) => kind === 'version_changed');
    expect(publishes).toHaveLength(1);

    await (await at(9, 8)).post(`${deal}/void`, { text: 'A test' }, 200);
    expect(await asked(2, '&known=then')).toEqual(said);
    expect((await asked(2)).stages).not.toEqual(known.stages);
  } finally {
    await test.stop();
  }
});
