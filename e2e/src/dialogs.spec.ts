import { fileURLToPath } from 'node:url';
import { expect, type Page, test } from '@playwright/test';
import { accessibilityProblems, beginDeal, editAsDraft, signIn } from './people.ts';

const EXAMPLE = fileURLToPath(new URL('../../docs/example-deals.csv', import.meta.url));
const RETROFIT = '/processes/01900000-0000-7000-8000-000000040002';

/** A dialog takes the focus, is accessible, and is left with Escape, which gives the focus back. */
async function checkDialog(page: Page, name: string | RegExp, opener: { label: string }): Promise<void> {
  const dialog = page.getByRole('dialog', { name });
  await expect(dialog).toBeVisible();
  await expect.poll(() => page.evaluate(() => document.activeElement?.closest('[role=dialog]') !== null)).toBe(true);
  expect(await accessibilityProblems(page), String(name)).toEqual([]);
  await page.keyboard.press('Escape');
  await expect(dialog).toHaveCount(0);
  await expect(page.getByRole('button', { name: opener.label }).first()).toBeFocused();
}

test('dialogs of design and settings take the focus, give it back, and are accessible', async ({ page }) => {
  await signIn(page, 'Maren Holt');
  await page.goto('/processes');
  await page.getByRole('button', { name: 'New process' }).click();
  await checkDialog(page, 'New process', { label: 'New process' });

  await page.goto('/settings');
  await page.getByRole('button', { name: 'Add a person' }).click();
  await checkDialog(page, 'Add a person', { label: 'Add a person' });
  await page.getByRole('button', { name: 'Bea Ferrant', exact: true }).click();
  await checkDialog(page, 'Bea Ferrant', { label: 'Bea Ferrant' });
  await page.getByRole('button', { name: 'Exchange rates' }).click();
  await page.getByRole('button', { name: 'Set a rate' }).click();
  await checkDialog(page, 'Set a rate', { label: 'Set a rate' });

  await page.goto(`${RETROFIT}?at=process`);
  await editAsDraft(page);
  expect(await accessibilityProblems(page), 'a draft as a whole').toEqual([]);
  await page.getByRole('button', { name: 'New field' }).click();
  await page.getByRole('dialog').getByLabel('Type').selectOption('Calculated number');
  await checkDialog(page, 'New field', { label: 'New field' });
  await page.getByRole('button', { name: /^Audit done/ }).click();
  expect(await accessibilityProblems(page), 'a stage of a draft').toEqual([]);
  await page.getByRole('button', { name: 'Add requirement: To enter this stage' }).click();
  await checkDialog(page, 'New requirement', { label: 'Add requirement: To enter this stage' });
  await page.getByRole('button', { name: 'Publish…' }).click();
  await expect(page.getByRole('dialog')).toContainText('Nothing differs from the live version.');
  await checkDialog(page, /Publish/, { label: 'Publish…' });
  page.on('dialog', (dialog) => dialog.accept());
  await page.getByRole('button', { name: 'Throw away' }).click();
  await expect(page.getByText(/Version \d+, live/)).toBeVisible();
});

test('dialogs of a deal take the focus, give it back, and are accessible', async ({ page }) => {
  await signIn(page, 'Maren Holt');
  await page.goto('/deals');
  await page.getByRole('button', { name: 'New deal' }).click();
  await checkDialog(page, /^New deal in/, { label: 'New deal' });
  await beginDeal(page, 'Looked at');
  await page.getByRole('button', { name: 'Other move' }).click();
  await page.getByRole('button', { name: 'Force to Survey…' }).click();
  await checkDialog(page, 'Force to Survey', { label: 'Other move' });
  await page.getByRole('button', { name: 'Other move' }).click();
  await page.getByRole('button', { name: 'Void as a test or duplicate…' }).click();
  await page.getByRole('dialog').getByLabel('It repeats another deal').check();
  await checkDialog(page, 'Void this deal', { label: 'Other move' });
  await page.getByRole('button', { name: 'Close deal' }).click();
  await page.getByRole('button', { name: 'As lost…' }).click();
  await checkDialog(page, /lost/, { label: 'Close deal' });
});

test('matching the columns of a file is accessible', async ({ page }) => {
  await signIn(page, 'Maren Holt');
  await page.goto('/data');
  await page.getByLabel('Into the process').selectOption('New glasshouse build');
  await page.getByLabel('CSV file').setInputFiles(EXAMPLE);
  await expect(page.getByRole('button', { name: 'Import the good rows' })).toBeVisible();
  expect(await accessibilityProblems(page)).toEqual([]);
});
