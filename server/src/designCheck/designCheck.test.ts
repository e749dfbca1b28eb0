import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { asOwner } from '../testing/testDatabase.ts';
import { DOCUMENT, PEOPLE, startTestServer, type TestServer } from '../testing/testServer.ts';

let test: TestServer;
let maren: Client;
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
});
afterAll(() => test.stop());

const dismiss = (remark: string, reason: string | null, expected = 200, by = maren) =>
  by.send('PUT', `/processes/${test.process}/dismissals`, { remark, reason }, expected);

describe('a suggestion that is dismissed', () => {
  it('keeps who and why; dismissed again it has the newer reason, and taken back it is told again; all of it is logged', async () => {
    await dismiss('skipped survey', 'They come from enquiries');
    await dismiss('skipped survey', 'They come from enquiries');
    const { body } = await dismiss('skipped survey', 'They were surveyed before');
    expect(body.items).toMatchObject([
      { remark: 'skipped survey', reason: 'They were surveyed before', by: 'Maren Holt' },
    ]);
    expect((await dismiss('skipped survey', null)).body).toEqual({ items: [] });
    expect((await dismiss('skipped survey', null)).body).toEqual({ items: [] });
    const { rows } = await asOwner(
      test.database,
      `select before->>'reason' as before, after->>'reason' as after from process_log where what = 'dismissal' order by id`,
    );
    expect(rows).toEqual([
      { before: null, after: 'They come from enquiries' },
      { before: 'They come from enquiries', after: 'They were surveyed before' },
      { before: 'They were surveyed before', after: null },
    ]);
  });

  it('of two administrators at once is dismissed once', async () => {
    const both = await Promise.all([dismiss('many stages 9', 'One'), dismiss('many stages 9', 'Two')]);
    expect(both.map(({ body }) => body.items.length)).toEqual([1, 1]);
    await dismiss('many stages 9', null);
  });

  it('needs words, a process, and an administrator; and there is an end to it', async () => {
    await dismiss('x', ' '.repeat(501), 400);
    await maren.send('PUT', `/processes/${PEOPLE.maren?.id}/dismissals`, { remark: 'x', reason: 'y' }, 404);
    for (const name of ['tomas', 'priya', 'lena']) await dismiss('x', 'y', 403, await test.as(name));
    await asOwner(
      test.database,
      `insert into dismissals select '${test.process}', 'remark ' || n, 'why', '${PEOPLE.maren?.id}', now() from generate_series(1, 500) n`,
    );
    expect((await dismiss('one more', 'why', 409)).body.detail).toContain('at most 500');
    await dismiss('remark 7', 'another reason');
    await dismiss('remark 7', null);
    await dismiss('one more', 'why');
  });
});

describe('the numbers in the list', () => {
  const counts = async () =>
    (await maren.get('/design-check')).body.items.find(({ process }: { process: string }) => process === test.process);

  it('are of the draft where there is one, follow the fields and people, and are for administrators', async () => {
    expect(await counts()).toEqual({ process: test.process, problems: 0, warnings: 0 });
    const { body: draft } = await maren.post(`/processes/${test.process}/draft`, undefined, 201);
    const [first, ...others] = DOCUMENT.stages;
    const who = { by: 'person', person: PEOPLE.bea?.id } as const;
    const steps = [
      {
        id: 'call',
        name: 'Call',
        instruction: '',
        who,
        due: null,
        captures: [],
        results: [{ id: 'done', name: 'Done', captures: 'asked', leads: { to: 'next' }, actions: [] }],
        byItself: null,
        afterReturn: 'keep',
      },
    ];
    const sections = [{ id: 'main', name: 'Deal', fields: ['customer', 'value', 'crop', 'paid'] }];
    const document = { ...DOCUMENT, sections, stages: [{ ...first, steps }, ...others] };
    await maren.send('PUT', `/processes/${test.process}/draft`, { document }, 200, {
      'If-Match': `"${draft.revision}"`,
    });
    // Glazed area is on no screen; crop is asked for after steps that do not fill it.
    expect(await counts()).toEqual({ process: test.process, problems: 1, warnings: 1 });
    await maren.patch(`/accounts/${PEOPLE.bea?.id}`, { active: false });
    expect(await counts()).toEqual({ process: test.process, problems: 1, warnings: 2 });
    await (await test.as('priya')).get('/design-check', 403);
  });

  it('what is counted as a problem keeps the draft from being published, when it is asked and in the preview', async () => {
    const { body: preview } = await maren.get(`/processes/${test.process}/draft/preview`);
    expect(preview.problems).toMatchObject([{ pointer: '/stages/1/enter/0' }]);
    const { body: draft } = await maren.get(`/processes/${test.process}/draft`);
    const body = { deals: 'move_over', graceDays: 0, transfers: {} };
    const refused = await maren.send('POST', `/processes/${test.process}/draft/publish`, body, 422, {
      'If-Match': `"${draft.revision}"`,
    });
    expect(refused.body.errors[0].detail).toContain('which no screen of the process shows');
  });
});
