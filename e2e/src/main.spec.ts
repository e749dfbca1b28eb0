import { fileURLToPath } from 'node:url';
import { expect, type Page, test } from '@playwright/test';
import { accessibilityProblems, beginDeal, changeTo, editAsDraft, signIn } from './people.ts';

const EXAMPLE = fileURLToPath(new URL('../../docs/example-deals.csv', import.meta.url));

/** The four figures at the head of Compliance: clear of all, held, flagged more, findings. */
async function complianceFigures(page: Page): Promise<{ clear: number; deals: number; held: number }> {
  await page.goto('/compliance');
  const rate = await page.locator('.key-figures > div').nth(0).textContent();
  const held = await page.locator('.key-figures > div').nth(1).locator('.figure-head').textContent();
  const [, clear, deals] = /(\d+) of ([\d,]+) deals? clear/.exec(rate ?? '') ?? [];
  return { clear: Number(clear), deals: Number(deals?.replace(',', '')), held: Number(held) };
}

const gateRow = (page: Page, text: string) => page.locator('.gate-row', { hasText: text }).first();

test('an administrator changes a gate and publishes; a seller is held by it, puts it right, moves on and takes it back', async ({
  page,
}) => {
  await test.step('the gate of Survey asks for the site notes too, and the version goes live', async () => {
    await page.goto('/sign-in');
    await page.getByRole('button', { name: 'Maren Holt' }).click();
    await page.getByRole('link', { name: 'Processes' }).click();
    await page.getByRole('link', { name: 'New glasshouse build' }).click();
    await editAsDraft(page);
    await page.getByRole('button', { name: /^Survey/ }).click();
    await page.getByRole('button', { name: 'Add requirement: To enter this stage' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('A field is filled').check();
    await dialog.getByLabel('Field', { exact: true }).selectOption('Site notes');
    await dialog.getByRole('button', { name: 'Add it' }).click();
    await expect(page.locator('.sheet .rung.on')).toContainText('Site notes is filled');
    await expect(page.getByText(/saved \d\d:\d\d/)).toBeVisible();
    await page.getByRole('button', { name: 'Publish…' }).click();
    await expect(page.getByRole('dialog')).toContainText('Site notes is filled; holds');
    await page.getByRole('dialog').getByRole('button', { name: 'Publish', exact: true }).click();
    await expect(page.getByText('Version 3, live')).toBeVisible();
  });

  await test.step('the example file is imported: good rows in, bad ones to be downloaded with their reasons', async () => {
    await page.getByRole('link', { name: 'Data' }).click();
    await page.getByLabel('Into the process').selectOption('New glasshouse build');
    await page.getByLabel('CSV file').setInputFiles(EXAMPLE);
    await expect(page.getByLabel('Column Amount is')).toHaveValue('field:value');
    await expect(page.locator('.preview td.bad')).toHaveCount(1);
    await page.getByRole('button', { name: 'Import the good rows' }).click();
    await expect(page.getByText('486 deals new')).toBeVisible();
    await expect(page.getByText('14 not imported')).toBeVisible();
    const newest = page.getByRole('row', { name: /example-deals\.csv/ }).first();
    await expect(newest).toContainText('done');
    await expect(newest.getByRole('button', { name: 'Take back' })).toBeVisible();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: 'Download the rows not imported' }).click(),
    ]);
    expect(download.suggestedFilename()).toContain('example-deals.csv');
  });

  const before = await complianceFigures(page);

  await test.step('a seller’s deal is held at the gate and told exactly why', async () => {
    await changeTo(page, 'Priya Nandan');
    await beginDeal(page, 'Thornfield, east bays');
    const owed = page.getByRole('region', { name: /What it owes/ });
    await owed.getByLabel('Customer').fill('Thornfield Tomatoes of the east');
    await owed.getByRole('button', { name: 'Add', exact: true }).click();
    await owed.getByLabel('Source').fill('Referral');
    await owed.getByLabel('Source').press('Enter');
    await expect(page.locator('.deal-title')).toContainText('Clear');
    await page.getByRole('button', { name: 'Move on' }).click();
    await expect(page.locator('.deal-title')).toContainText('Held');
    await expect(page.locator('#move-why')).toContainText(
      '4 requirements hold it: Brief call held, Glazed area, Planning',
    );
  });

  await test.step('everyone sees one more deal, and it is held', async () => {
    await changeTo(page, 'Maren Holt');
    const held = await complianceFigures(page);
    expect(held).toEqual({ clear: before.clear, deals: before.deals + 1, held: before.held + 1 });
    await changeTo(page, 'Priya Nandan');
    await page.goto('/deals?find=Thornfield, east bays');
    await page.getByRole('link', { name: 'Thornfield, east bays' }).click();
  });

  await test.step('each thing is put right in its place, and the deal moves on', async () => {
    await gateRow(page, 'Brief call held').getByLabel('Brief call held done').click();
    await expect(gateRow(page, 'Brief call held')).toContainText('✓ met');
    await gateRow(page, 'Glazed area').getByLabel('Glazed area').fill('150');
    await gateRow(page, 'Glazed area').getByLabel('Glazed area').press('Enter');
    await expect(gateRow(page, 'Glazed area')).toContainText('It is 150');
    await gateRow(page, 'Glazed area').getByLabel('Glazed area').fill('4200');
    await gateRow(page, 'Glazed area').getByLabel('Glazed area').press('Enter');
    await expect(gateRow(page, 'Glazed area')).toContainText('✓ met');
    await gateRow(page, 'Planning').getByLabel('Planning').selectOption('Granted');
    await gateRow(page, 'Site notes').getByLabel('Site notes').fill('Flat, drains to the east.');
    await gateRow(page, 'Site notes').getByLabel('Site notes').blur();
    await gateRow(page, 'Crop').getByLabel('Crop').selectOption('Tomatoes');
    await expect(gateRow(page, 'Crop')).toContainText('✓ met');
    await expect(page.locator('.deal-title')).toContainText('Clear');
    await page.getByRole('button', { name: 'Move on' }).click();
    await expect(page.locator('.climb [aria-current="step"]')).toContainText('Survey');
  });

  await test.step('closing it as won from the middle asks what the rest asks', async () => {
    await page.getByRole('button', { name: 'Close deal' }).click();
    await page.getByRole('button', { name: 'As won…' }).click();
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('requirements of the rest of the ladder hold this');
    await expect(dialog).toContainText('Signed contract is filled');
    await dialog.getByLabel('Reason').selectOption('Best design');
    await dialog.getByRole('button', { name: 'Close as won' }).click();
    await expect(page.getByRole('heading', { name: /To close as won from here/ })).toBeVisible();
    await expect(page.locator('.deal-title')).toContainText('Held');
    await page.getByRole('button', { name: 'Other move' }).click();
    await page.getByRole('button', { name: 'Give up the refused move' }).click();
    await expect(page.locator('.deal-title')).toContainText('Clear');
  });

  await test.step('the move is taken back, and the figures are what they were, with one clear deal more', async () => {
    await page.getByRole('button', { name: 'Take back the move…' }).click();
    await page
      .getByRole('dialog')
      .getByLabel(/What was wrong/)
      .fill('The wrong deal');
    await page.getByRole('dialog').getByRole('button', { name: 'Take back' }).click();
    await expect(page.locator('.climb [aria-current="step"]')).toContainText('Site brief');
    await expect(page.locator('.journal')).toContainText('Taken back: Site brief → Survey');
    await changeTo(page, 'Maren Holt');
    expect(await complianceFigures(page)).toEqual({
      clear: before.clear + 1,
      deals: before.deals + 1,
      held: before.held,
    });
  });
});

test('a deal whose gates are met closes as won, and is read-only after', async ({ page }) => {
  await signIn(page, 'Ravi Castell');
  await page.goto('/deals?process=01900000-0000-7000-8000-000000040002');
  await page.getByRole('button', { name: 'New deal' }).click();
  await page.getByRole('dialog').getByLabel('Name of the deal').fill('Short way');
  await page.getByRole('dialog').getByLabel('Stage').selectOption('Approval');
  await page.getByRole('dialog').getByRole('button', { name: 'Begin the deal' }).click();
  await gateRow(page, 'Approval in writing').getByLabel('Approval in writing done').click();
  await expect(page.locator('#move-why')).toHaveText('To Won');
  await page.getByRole('button', { name: 'Move on' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Close as won' }).click();
  await expect(dialog.getByText('Choose a reason.')).toBeVisible();
  await dialog.getByLabel('Reason').selectOption('Price');
  await dialog.getByLabel('Final value').fill('48,500');
  await dialog.getByRole('button', { name: 'Close as won' }).click();
  await expect(page.getByText('Closed as won')).toHaveCount(2);
  await expect(page.locator('.journal')).toContainText('Closed as won for £48,500 on');
  await expect(page.getByLabel('Approval in writing')).toBeDisabled();
  await page.getByLabel('Write what happened').fill('They will bring cake.');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.locator('.journal')).toContainText('They will bring cake.');
  await expect(page.getByRole('button', { name: 'Reopen it…' })).toBeHidden();

  const address = page.url();
  await test.step('a new deal goes on from it, with the facts that were chosen', async () => {
    await page.getByRole('button', { name: 'Begin a new deal from it…' }).click();
    await dialog.getByLabel('Name of the new deal').fill('Short way again');
    await expect(dialog.getByLabel('Close date')).not.toBeChecked();
    await dialog.getByRole('button', { name: 'Begin the deal' }).click();
    await expect(page.locator('.journal')).toContainText('Begun from Short way, which had closed');
    await expect(page.locator('.deal-head, header').first()).toContainText('£49k');
    await page.locator('.journal').getByRole('link', { name: 'Short way' }).click();
    await expect(page.locator('.journal')).toContainText('Went on as Short way again');
  });
  await changeTo(page, 'Tomas Verhey');
  await page.goto(address);
  await page.getByRole('button', { name: 'Reopen it…' }).click();
  await dialog.getByRole('button', { name: 'Reopen it' }).click();
  await expect(dialog.getByText('Say why.')).toBeVisible();
  expect(await accessibilityProblems(page)).toEqual([]);
  await dialog.getByLabel(/Why does it go on/).fill('They signed the wrong paper');
  await dialog.getByRole('button', { name: 'Reopen it' }).click();
  await expect(page.locator('.climb [aria-current="step"]')).toContainText('Approval');
  await expect(page.locator('.journal')).toContainText('Reopened in Approval');
  await expect(page.getByRole('button', { name: 'Move on' })).toBeVisible();
});
