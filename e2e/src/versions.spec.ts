import { readFile } from 'node:fs/promises';
import { expect, test } from '@playwright/test';
import { accessibilityProblems, addStage, openStage, signIn } from './people.ts';

const NEW_BUILD = '/processes/01900000-0000-7000-8000-000000040001';

test('two versions are compared on one ladder, stage by stage, and an old one is taken as the draft again', async ({
  page,
}, { repeatEachIndex }) => {
  const name = `Considered ${repeatEachIndex + 1}`;
  await signIn(page, 'Maren Holt');
  await page.goto('/processes');
  let actions = 0;
  const act = async (action: Promise<unknown>) => {
    await action;
    actions++;
  };

  await test.step('a first useful process takes at most twelve actions', async () => {
    await act(page.getByRole('button', { name: 'New process' }).click());
    await act(page.getByLabel('Name', { exact: true }).fill(name));
    await act(page.getByLabel('First stage').fill('Asked'));
    await act(page.getByRole('button', { name: 'Begin the draft' }).click());
    for (const stage of ['Offered', 'Agreed']) {
      await act(addStage(page));
      await act(page.getByLabel('Name', { exact: true }).fill(stage));
      await act(page.getByLabel('Name', { exact: true }).press('Enter'));
    }
    await expect(page.locator('.sheet .stage-name')).toHaveText(['Asked', 'Offered', 'Agreed']);
    await act(page.getByRole('button', { name: 'Publish…' }).click());
    await act(page.getByRole('dialog').getByRole('button', { name: 'Publish', exact: true }).click());
    await expect(page.getByText('Version 1, live')).toBeVisible();
    expect(actions).toBeLessThanOrEqual(12);
  });

  await test.step('the publish dialog tells what changes', async () => {
    await page.getByRole('button', { name: 'Edit as a draft' }).click();
    await openStage(page, 1);
    await page.getByLabel('Name', { exact: true }).fill('Offer sent');
    await page.getByLabel('Name', { exact: true }).press('Enter');
    await page.getByLabel('New checklist item').fill('Price agreed');
    await page.getByRole('button', { name: 'Add item' }).click();
    await openStage(page, 2);
    await page.getByRole('button', { name: 'Move up' }).click();
    await page.getByRole('button', { name: 'Publish…' }).click();
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('Price agreed; must, holds');
    await dialog.getByLabel('A note for those who have deals in it').fill('Offers are checked now');
    await dialog.getByRole('button', { name: 'Publish', exact: true }).click();
    await expect(page.getByText('Version 2, live')).toBeVisible();
  });

  await test.step('compared, one stage at a time if wanted', async () => {
    await page.getByRole('link', { name: 'Versions' }).click();
    await expect(page.getByRole('row', { name: /v2/ })).toContainText('Offers are checked now');
    const compared = page.getByRole('region', { name: 'What changed' });
    const moved = compared.locator('.rung', { hasText: 'Offer sent' });
    await expect(moved).toContainText('moved from 2 to 3');
    await expect(moved.locator('del')).toHaveText('Offered');
    await expect(moved.locator('ins').last()).toHaveText('Price agreed; must, holds');
    expect(await accessibilityProblems(page)).toEqual([]);
    await compared.getByLabel('Stage').selectOption('Asked');
    await expect(compared).toContainText('It says the same.');
    await expect(compared.locator('.rung')).toHaveCount(1);
  });

  await test.step('an old one is taken as the draft, also in the place of a draft', async () => {
    await page.getByRole('button', { name: 'Take v1 as the draft' }).click();
    await expect(page.locator('.page-head').getByText('Draft 3')).toBeVisible();
    await expect(page.locator('.sheet .stage-name')).toHaveText(['Asked', 'Offered', 'Agreed']);
    await page.getByRole('link', { name: 'Versions' }).click();
    page.once('dialog', (dialog) => dialog.accept());
    await page.getByRole('button', { name: 'Take v2 as the draft' }).click();
    await expect(page.locator('.sheet .stage-name')).toHaveText(['Asked', 'Agreed', 'Offer sent']);
  });
});

test('a seller compares versions, and is offered no draft', async ({ page }) => {
  await signIn(page, 'Priya Nandan');
  await page.goto(`${NEW_BUILD}/versions?from=1&to=2`);
  await expect(page.getByRole('region', { name: 'What changed' })).toContainText(
    'Load check is Passed; holds, must stay so',
  );
  await expect(page.getByRole('button', { name: /as the draft/ })).toHaveCount(0);
});

test('sellers have the process on paper, a page a stage at most', async ({ page }) => {
  await signIn(page, 'Priya Nandan');
  await page.goto(`${NEW_BUILD}/versions`);
  await page.getByRole('link', { name: 'Sheet for sellers' }).click();
  const survey = page.getByRole('region', { name: 'Survey' });
  await expect(survey).toContainText('Glazed area is at least 200');
  await expect(survey.getByRole('list').first()).toBeVisible();
  await expect(survey).toContainText('Load check');
  expect(await accessibilityProblems(page)).toEqual([]);
  // One page a stage, and one for how it ends: pages of a PDF are told by their objects (ISO 32000-1, 7.7.3.3).
  const stages = await page.locator('.printed-page').count();
  const pdf = (await page.pdf({ format: 'A4' })).toString('latin1');
  expect(pdf.match(/\/Type\s*\/Page\b(?!s)/g)).toHaveLength(stages);
});

test('a process goes to a file and comes back; what it needs is shown first, and what is wrong with its place', async ({
  page,
}, { repeatEachIndex }) => {
  await signIn(page, 'Maren Holt');
  await page.goto(`${NEW_BUILD}/versions`);
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'v2 as a file' }).click(),
  ]);
  const content = await readFile(await download.path(), 'utf8');
  await page.goto('/processes');
  await page.getByRole('button', { name: 'From a file' }).click();
  const dialog = page.getByRole('dialog');
  const choose = (text: string) =>
    dialog
      .getByLabel('The file')
      .setInputFiles({ name: 'p.json', mimeType: 'application/json', buffer: Buffer.from(text) });
  await choose('no json');
  await expect(dialog).toContainText('This is no process');
  await choose(content.replace('"skips":"hold"', '"skips":"never"'));
  await expect(dialog.getByRole('alert')).toContainText('/process/skips');
  // As it comes from a company that has no such field.
  const { fields } = JSON.parse(content) as { fields: { id: string; name: string }[] };
  const area = fields.find((field) => field.name === 'Glazed area')?.id ?? '';
  await choose(content.replaceAll('Glazed area', 'Area under glass').replaceAll(`"${area}"`, '"area_under_glass"'));
  await expect(dialog).toContainText('Is made');
  await expect(dialog).toContainText('field Area under glass');
  expect(await accessibilityProblems(page)).toEqual([]);
  await dialog.getByLabel('Name').fill(`From a file ${repeatEachIndex + 1}`);
  await dialog.getByRole('button', { name: 'Begin the draft' }).click();
  await expect(page.locator('.sheet .rung').nth(1)).toContainText('Area under glass is at least 200');
  await expect(page.getByRole('region', { name: 'Design check' })).toContainText('0 problems');
});

test('a process begins from a starting point, or as a copy', async ({ page }, { repeatEachIndex }) => {
  await signIn(page, 'Maren Holt');
  for (const [from, stage] of [
    [/^A considered sale/, 'Need understood'],
    [/^a copy of Climate retrofit/, 'Retrofit plan'],
  ] as const) {
    await page.goto('/processes');
    await page.getByRole('button', { name: 'New process' }).click();
    await page.getByLabel('Name', { exact: true }).fill(`Begun with ${stage} ${repeatEachIndex + 1}`);
    const choice = page.getByLabel('Begin with');
    const label = (await choice.getByRole('option').allTextContents()).find((text) => from.test(text));
    await choice.selectOption(label ?? '');
    await page.getByRole('button', { name: 'Begin the draft' }).click();
    await expect(page.locator('.sheet .stage-name', { hasText: stage })).toBeVisible();
    await expect(page.getByRole('region', { name: 'Design check' })).toContainText('0 problems');
  }
});
