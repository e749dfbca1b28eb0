import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { read, send } from './api.ts';
import { accessibilityProblems, beginDeal, editAsDraft, signIn } from './people.ts';

const PDF = Buffer.from('%PDF-1.7\n1 0 obj\n<<>>\nendobj\n');

/** Two stages, published, with open deals in the second: one begun now, and one imported that came there long ago. */
async function processWithDeals(page: Page, name: string): Promise<string> {
  const { id } = await send(page, 'POST', '/processes', {
    body: { name, kind: 'deal', currency: 'GBP', firstStage: 'Brief' },
  });
  const { document, revision } = await read(page, `/processes/${id}/draft`);
  const [brief] = document.stages;
  const stages = [brief, { ...brief, id: 'survey', name: 'Survey' }, { ...brief, id: 'design', name: 'Design' }];
  const saved = await send<{ revision: number }>(page, 'PUT', `/processes/${id}/draft`, {
    body: { document: { ...document, stages } },
    revision,
  });
  const how = { deals: 'move_over', graceDays: 0, transfers: {} };
  await send(page, 'POST', `/processes/${id}/draft/publish`, { body: how, revision: saved.revision });
  const rules = { past_target: 'off', idle: 'off', close_date_past: 'off', no_next_action: 'off', step_late: 'flag' };
  await send(page, 'PATCH', `/processes/${id}`, { body: { houseRules: rules } });
  return String(id);
}

/** Adds a step to the stage that is open on the sheet, and gives it its results. */
async function addStep(
  page: Page,
  name: string,
  results: readonly (readonly [string, string])[],
  more?: () => Promise<void>,
) {
  await page.getByLabel('New guided step').fill(name);
  await page.getByRole('button', { name: 'Add step' }).click();
  const dialog = page.getByRole('dialog');
  for (const [place, [result, lead]] of results.entries()) {
    if (place > 0) await dialog.getByRole('button', { name: 'Add a result' }).click();
    await dialog.getByLabel(`Name of result ${place + 1}`).fill(result);
    await dialog.getByLabel(`Where ${result} leads`).selectOption(lead);
  }
  await more?.();
  await dialog.getByRole('button', { name: 'Keep it' }).click();
  await expect(dialog).toBeHidden();
}

test('steps are designed, previewed, published over open deals, and worked by keyboard; the work is told', async ({
  page,
}, { repeatEachIndex }) => {
  const name = `Guided ${repeatEachIndex}`;
  await signIn(page, 'Maren Holt');
  const process = await processWithDeals(page, name);
  await page.goto(`/deals?process=${process}`);
  await beginDeal(page, `Block ${repeatEachIndex}`, `/deals?process=${process}`);
  await page.getByRole('button', { name: 'Move on' }).click();
  await expect(page.locator('.climb .now')).toContainText('Survey');
  const deal = page.url();

  await test.step('three steps with their results; one goes back, one closes, one goes on by itself', async () => {
    await page.goto(`/processes/${process}`);
    await editAsDraft(page);
    await page.getByRole('button', { name: /^Survey/ }).click();
    const dialog = page.getByRole('dialog');
    await addStep(
      page,
      'Book the visit',
      [
        ['Booked', 'to the next step'],
        ['Nobody answered', 'this step again'],
        ['Not wanted', 'as lost'],
      ],
      async () => {
        await dialog.getByLabel(/^What to do/).fill('Ring **before noon**. <script>alert(1)</script>');
        await expect(dialog.locator('.markdown strong')).toHaveText('before noon');
        await expect(dialog.locator('.markdown script')).toHaveCount(0);
        await dialog.getByLabel('Due after').fill('3');
        await dialog.getByLabel('Due after').press('Tab');
        await dialog.getByLabel('Add a field to fill in').selectOption('Next action');
        expect(await accessibilityProblems(page)).toEqual([]);
      },
    );
    await addStep(
      page,
      'Walk the site',
      [
        ['Sound', 'to the next step'],
        ['Wrong site', 'Brief'],
        ['Again', 'this step again'],
      ],
      async () => {
        await dialog.getByLabel('Goes on by itself where nobody ends it').check();
        await dialog.getByLabel('With the result').selectOption('Again');
        await expect(dialog.getByText('what it leads to happens at once')).toBeVisible();
      },
    );
    await addStep(
      page,
      'Report',
      [
        ['Written', 'the deal moves on'],
        ['Not yet', 'this step again'],
        ['Given up', 'as lost'],
      ],
      async () => {
        await dialog.getByLabel('Add an action to Written').selectOption('add a note');
        await dialog.getByLabel('Text of the note').fill('The report is written.');
      },
    );
    await expect(page.locator('.steps-flow')).toContainText('Walk the site, Wrong site: back to Brief');
    await page.getByRole('button', { name: 'Move Report', exact: true }).focus();
    await page.keyboard.press('ArrowUp');
    await expect(page.locator('.step-list li').nth(1)).toContainText('Report');
    await page.keyboard.press('ArrowDown');
    await expect(page.locator('.step-list li').nth(2)).toContainText('Report');
  });

  await test.step('the gate asks for a survey report', async () => {
    await page.getByRole('button', { name: 'Add requirement: Before leaving it forward' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('A document is attached').check();
    await dialog.getByLabel('Kind of document').selectOption('Survey report');
    await dialog.getByRole('button', { name: 'Add it' }).click();
    await expect(page.locator('.sheet .rung.on')).toContainText('Survey report is attached');
  });

  await test.step('they are played without a deal', async () => {
    await page.getByRole('button', { name: 'Preview', exact: true }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByRole('button', { name: /^Booked/ }).click();
    await expect(dialog.getByText('Needed for this result.')).toBeVisible();
    await dialog.getByLabel('Next action').fill('Ring them');
    await dialog.getByRole('button', { name: /^Booked/ }).click();
    await dialog.getByRole('button', { name: /^Wrong site/ }).click();
    await expect(dialog.getByRole('status')).toContainText('back to Brief');
    await dialog.getByRole('button', { name: 'Close', exact: true }).last().click();
  });

  await test.step('published, they begin for the deal that is there', async () => {
    await expect(page.getByText(/saved \d\d:\d\d/)).toBeVisible();
    await page.getByRole('button', { name: 'Publish…' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Publish', exact: true }).click();
    await expect(page.getByText('Version 2, live')).toBeVisible();
    await page.goto(deal);
    await expect(page.locator('.step-card')).toContainText('Book the visit');
    await expect(page.locator('.gate')).toContainText('Survey report is attached');
    expect(await accessibilityProblems(page)).toEqual([]);
  });

  await test.step('a step is worked by keyboard alone, and its result taken back', async () => {
    const card = page.locator('.step-card');
    await card.getByRole('button', { name: /^Booked/ }).focus();
    await page.keyboard.press('Enter');
    await expect(card.getByText('Next action is needed for this result.')).toBeVisible();
    await card.getByLabel('Next action').focus();
    await page.keyboard.type('Walk on Tuesday');
    await page.keyboard.press('Tab');
    await expect(card.getByRole('button', { name: /^Booked/ })).toBeFocused();
    await page.keyboard.press('Enter');
    await expect(card).toContainText('Walk the site');
    await expect(page.locator('.climb .now')).toContainText('Book the visit: Booked');
    await page.getByRole('button', { name: 'Take back Book the visit: Booked' }).click();
    await page.getByRole('dialog').getByRole('textbox').fill('Wrong day');
    await page.getByRole('dialog').getByRole('button', { name: 'Take back' }).click();
    await expect(card).toContainText('Book the visit');
    await card.getByRole('button', { name: /^Booked/ }).click();
    await expect(card).toContainText('goes on by itself', { ignoreCase: true });
  });

  await test.step('a result sends the deal back, with why; coming again, what was done counts', async () => {
    const card = page.locator('.step-card');
    await card.getByRole('button', { name: /^Wrong site/ }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByRole('button', { name: 'Wrong site' }).click();
    await expect(dialog.getByText('Say why.')).toBeVisible();
    await dialog.getByRole('textbox').fill('It is the next field');
    await dialog.getByRole('button', { name: 'Wrong site' }).click();
    await expect(page.locator('.climb .now')).toContainText('Brief');
    await page.getByRole('button', { name: 'Move on' }).click();
    // Both steps had ended, so that their results carry over; the walk's leads back and is begun again by nobody.
    await expect(page.locator('.climb .now')).toContainText('Survey');
  });

  await test.step('held for the report, the result stays; the report is attached where it is asked, and the deal moves on', async () => {
    await page.getByRole('button', { name: 'Move on' }).click();
    await expect(page.locator('.gate')).toContainText('A move was refused');
    await page
      .locator('.gate input[type="file"]')
      .setInputFiles({ name: 'Survey.pdf', mimeType: 'application/pdf', buffer: PDF });
    await expect(page.locator('.documents')).toContainText('Survey.pdf');
    await expect(page.locator('.gate')).not.toContainText('holds the move');
    await page.getByRole('button', { name: 'Move on' }).click();
    await expect(page.locator('.climb .now')).toContainText('Design');
  });

  await test.step('the page Work tells it, and leads to the deal', async () => {
    await page.goto(`/compliance/work?process=${process}`);
    await expect(page.getByRole('heading', { name: 'Done', exact: true })).toBeVisible();
    expect(await accessibilityProblems(page)).toEqual([]);
    await page.getByRole('button', { name: /^1: Book the visit, Booked, Maren Holt/ }).click();
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Done, one by one as CSV' }).click();
    const file = readFileSync(await (await download).path(), 'utf8');
    expect(file).toContain(`Block ${repeatEachIndex},Maren Holt,Survey,Book the visit,Booked,Maren Holt,`);
    await page
      .locator('#runs')
      .getByRole('link', { name: `Block ${repeatEachIndex}` })
      .click();
    await expect(page.getByRole('heading', { level: 1, name: `Block ${repeatEachIndex}` })).toBeVisible();
  });
});

test('an imported deal is late since the day after its step was due, and a seller puts it off', async ({ page }, {
  repeatEachIndex,
}) => {
  await signIn(page, 'Maren Holt');
  const process = await processWithDeals(page, `Imported late ${repeatEachIndex}`);
  await page.goto(`/processes/${process}`);
  await editAsDraft(page);
  await page.getByRole('button', { name: /^Survey/ }).click();
  await addStep(page, 'Walk the site', [['Sound', 'the steps are finished']], async () => {
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Due after').fill('2');
    await dialog.getByLabel('Due after').press('Tab');
    await dialog.getByLabel('Counted in').selectOption('all days');
  });
  await expect(page.getByText(/saved \d\d:\d\d/)).toBeVisible();
  await page.getByRole('button', { name: 'Publish…' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Publish', exact: true }).click();
  await expect(page.getByText('Version 2, live')).toBeVisible();

  const [priya] = (await read(page, '/people?find=priya')).items;
  const csv = `External id,Name,Stage,Created,Entered stage,Owner,Team\nx${process},Came long ago,Survey,2026-11-01,2026-11-10,${priya.name},Growers North\n`;
  const { import: one, preview } = await send<{ import: { id: string }; preview: { settings: unknown } }>(
    page,
    'POST',
    `/imports?fileName=a.csv&process=${process}`,
    { body: csv, type: 'text/csv' },
  );
  await send(page, 'POST', `/imports/${one.id}/run`, { body: preview.settings });
  const imported = async () => (await read(page, `/deals?process=${process}`)).items;
  await expect.poll(imported).not.toEqual([]);
  const [{ id }] = await imported();

  await signIn(page, 'Priya Nandan');
  await page.goto(`/deals/${id}`);
  // In Survey since the 10th, due on the 12th; today is the 24th.
  await expect(page.locator('.step-due')).toHaveText('due 12 Nov, 12 days late');
  await expect(page.locator('.deal-mid')).toContainText('Walk the site is done by 12 Nov 2026');
  // The house rule is asked since today, so that nobody broke it before.
  await expect(page.locator('.deal-mid')).toContainText('since today');
  await page.getByRole('button', { name: 'Put off…' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Due on').fill('2026-12-04');
  await dialog.getByRole('button', { name: 'Set the day' }).click();
  await expect(dialog.getByText('Say why.')).toBeVisible();
  await dialog.getByLabel('Why?').fill('They are away');
  await dialog.getByRole('button', { name: 'Set the day' }).click();
  await expect(page.locator('.step-due')).toHaveText('due 4 Dec');
  await expect(page.locator('.deal-mid')).not.toContainText('is done by');
});
