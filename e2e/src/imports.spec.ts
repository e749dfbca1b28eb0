import { expect, type Page, test } from '@playwright/test';
import { signIn } from './people.ts';

const RETROFIT = 'Climate retrofit';

async function upload(page: Page, name: string, csv: string): Promise<void> {
  await page.goto('/data');
  await page.getByLabel('Into the process').selectOption(RETROFIT);
  await page.getByLabel('CSV file').setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(csv) });
  await expect(page.getByRole('button', { name: 'Import the good rows' })).toBeVisible();
}

test('columns are matched by hand, each problem stands at its cell, and what cannot be is said before it is tried', async ({
  page,
}) => {
  await signIn(page, 'Maren Holt');
  await upload(page, 'strange.csv', 'One;Two;Three\nNorth house;1.234,50;2026-02-30\n"South; house";200;2026-12-01\n');
  await expect(page.getByLabel('Cells are separated by')).toHaveValue(';');
  await expect(page.getByRole('alert')).toContainText('Match a column to the deal’s name or to its customer.');
  await expect(page.getByRole('button', { name: 'Import the good rows' })).toBeDisabled();
  let answering = 0;
  await page.route('**/preview', async (route) => {
    answering++;
    expect(answering).toBe(1);
    await new Promise((resolve) => setTimeout(resolve, 300));
    await route.fulfill({ response: await route.fetch() });
    answering--;
  });
  await page.getByLabel('Column One is').selectOption('Name of the deal');
  await page.getByLabel('Column Two is').selectOption('Value');
  await page.getByLabel('Column Three is').selectOption('Close date');
  await expect(page.locator('.preview td.bad')).toHaveCount(2);
  await expect(page.locator('.preview')).toContainText('“1.234,50” is not an amount');
  await expect(page.locator('.preview')).toContainText('“2026-02-30” is not a date that exists');
  await page.getByLabel('Column Two is').selectOption('Name of the deal');
  await expect(page.getByText('Two columns are matched to the same thing.')).toBeVisible();
  await page.getByLabel('Column Two is').selectOption('left out');
  await expect(page.getByRole('status')).toContainText('1 row of these 2 would not be imported');
  await page.unrouteAll({ behavior: 'wait' });
});

test('dates that fit both orders are asked about, and signs that stand for several currencies are refused', async ({
  page,
}) => {
  await signIn(page, 'Maren Holt');
  await upload(page, 'dates.csv', 'Deal,Close date,Value\nNorth,03/04/2026,€12.50\nSouth,05/06/2026,$40\n');
  await expect(page.getByText('can be read day first or month first. Say which.')).toBeVisible();
  await expect(page.getByText('“$” stands for several currencies')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Import the good rows' })).toBeDisabled();
  await page.getByLabel('Dates of Close date are written').selectOption('day first');
  await expect(page.getByText('Say which.')).toHaveCount(0);
  await expect(page.getByRole('status')).toContainText('1 row of these 2 would not be imported');
  await page.getByLabel('An external id that is known already').selectOption('update');
  await expect(page.getByText('The dates of its history are read for new deals only.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Import the good rows' })).toBeEnabled();
});

test('a file is imported, updates what it knows, doubles nothing, and is taken back while its deals are untouched', async ({
  page,
}, { repeatEachIndex }) => {
  const name = `House of glass ${repeatEachIndex}`;
  const csv = (value: number) => `Ref,Deal,Amount,Stage\nG-${repeatEachIndex},${name},${value},Proposal\n`;
  await signIn(page, 'Maren Holt');
  await upload(page, 'first.csv', csv(1000));
  await page.getByRole('button', { name: 'Import the good rows' }).click();
  await expect(page.getByText('1 deal new')).toBeVisible();
  await upload(page, 'again.csv', csv(2000));
  await page.getByRole('button', { name: 'Import the good rows' }).click();
  await expect(page.getByText('0 deals new, 0 updated, 1 skipped')).toBeVisible();
  await upload(page, 'update.csv', csv(3000));
  await page.getByLabel('An external id that is known already').selectOption('update');
  await page.getByRole('button', { name: 'Import the good rows' }).click();
  await expect(page.getByText('0 deals new, 1 updated, 0 skipped')).toBeVisible();
  await page.goto(`/deals?process=01900000-0000-7000-8000-000000040002&find=${name}`);
  await page.getByRole('link', { name }).click();
  await expect(page.locator('.deal-facts')).toContainText('£3k');
  await expect(page.locator('.journal')).toContainText('Value £1,000 → £3,000');
  await expect(page.locator('.climb [aria-current="step"]')).toContainText('Proposal');

  await page.goto('/data');
  page.on('dialog', (dialog) => dialog.accept());
  const row = (file: string) => page.getByRole('row', { name: new RegExp(file) }).first();
  await row('update.csv').getByRole('button', { name: 'Take back' }).click();
  await expect(row('update.csv')).toContainText('taken back');
  await row('first.csv').getByRole('button', { name: 'Take back' }).click();
  await expect(page.getByRole('alert')).toContainText('1 of its deals was worked on');
  await page.goto(`/deals?process=01900000-0000-7000-8000-000000040002&find=${name}`);
  await page.getByRole('link', { name }).click();
  await expect(page.locator('.deal-facts')).toContainText('£1k');

  const other = `Taken back at once ${repeatEachIndex}`;
  await upload(page, 'untouched.csv', `Ref,Deal\nU-${repeatEachIndex},${other}\n`);
  await page.getByRole('button', { name: 'Import the good rows' }).click();
  await expect(page.getByText('1 deal new')).toBeVisible();
  await row('untouched.csv').getByRole('button', { name: 'Take back' }).click();
  await expect(row('untouched.csv')).toContainText('taken back');
  await page.goto(`/deals?process=01900000-0000-7000-8000-000000040002&find=${other}`);
  await expect(page.getByText(`Nothing is called “${other}”.`)).toBeVisible();
});
