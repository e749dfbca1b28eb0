import type { ProcessId, VersionId } from '@ladder/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { inTransaction } from '../../context.ts';
import type { Client } from '../../testing/client.ts';
import { asOwner } from '../../testing/testDatabase.ts';
import { DOCUMENT, saveAndPublish, startTestServer, type TestServer } from '../../testing/testServer.ts';
import { loadSetting, touchProcess } from './settings.ts';

/* Settings are kept by the server; what is kept is never older than what the caller's transaction sees. */

let test: TestServer;
let maren: Client;
let version: VersionId;
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
  version = (await maren.get(`/processes/${test.process}`)).body.live.version.id;
});
afterAll(() => test.stop());

const load = () => inTransaction(test.server.context, (tx) => loadSetting(tx, version));
const OFF = { past_target: 'off', idle: 'off', close_date_past: 'off', no_next_action: 'off', step_late: 'off' };

describe('a setting', () => {
  it('is read once while nothing of it is written', async () => {
    expect(await load()).toBe(await load());
  });

  it.each([
    [
      'house rules',
      () => maren.send('PATCH', `/processes/${test.process}`, { houseRules: { ...OFF, idle: 'flag' } }, 200),
    ],
    [
      'reasons',
      () =>
        maren.patch(`/processes/${test.process}`, {
          reasons: [{ id: 'price', outcome: 'lost', name: 'Price', followUp: 'asked', withdrawn: 'no' }],
        }),
    ],
    ['a rate', () => maren.send('PUT', '/rates', { from: 'EUR', to: 'GBP', day: '2026-11-01', rate: 0.87 }, 200)],
    ['the calendar', () => asOwner(test.database, `update calendars set holidays = '{2026-12-25}'`)],
    ['the organisation', () => asOwner(test.database, `update organisation set time_zone = 'Europe/Berlin'`)],
  ])('is read again after %s changed', async (_what, change) => {
    const before = await load();
    await change();
    const after = await load();
    expect(after).not.toBe(before);
    expect(JSON.stringify([after, after.rateOf('EUR', 'GBP')])).not.toBe(
      JSON.stringify([before, before.rateOf('EUR', 'GBP')]),
    );
    expect(await load()).toBe(after);
  });

  it('of an older version is read again after a publish, whose days of grace count for it too', async () => {
    await maren.post('/deals', { process: test.process, name: 'Stays', values: {} }, 201);
    const before = await load();
    await maren.post(`/processes/${test.process}/draft`, undefined, 201);
    const [first, ...others] = DOCUMENT.stages;
    if (!first) throw new Error('No stage');
    const stricter = { ...first, checklist: first.checklist.map((item) => ({ ...item, id: 'other' })) };
    await saveAndPublish(maren, test.process, { ...DOCUMENT, stages: [stricter, ...others] }, { graceDays: 9 });
    const after = await load();
    expect([before.publishes.length, after.publishes.length, after.about.state]).toEqual([0, 1, 'superseded']);
  });

  it('that a transaction has written itself is kept for nobody', async () => {
    const before = await load();
    await inTransaction(test.server.context, async (tx) => {
      await touchProcess(tx, test.process as ProcessId);
      const own = await loadSetting(tx, version);
      expect(own).not.toBe(before);
      expect(await loadSetting(tx, version)).not.toBe(own);
      throw new Error('Nothing of it stays');
    }).catch((error: Error) => expect(error.message).toBe('Nothing of it stays'));
    expect(await load()).toBe(before);
  });
});
