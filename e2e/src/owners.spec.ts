import { expect, test } from '@playwright/test';
import { accessibilityProblems, beginDeal, openFirstPage, signIn } from './people.ts';

test('deals that were chosen in the table change their owner, and say so', async ({ page }, { repeatEachIndex }) => {
  const names = [`Handed ${repeatEachIndex} a`, `Handed ${repeatEachIndex} b`];
  await signIn(page, 'Priya Nandan');
  for (const name of names) await beginDeal(page, name);
  await page.goto(`/deals?view=table&find=${encodeURIComponent(`Handed ${repeatEachIndex}`)}`);
  for (const name of names) await page.getByLabel(`Choose ${name}`).check();
  await expect(page.getByText('2 deals chosen')).toBeVisible();
  await page.getByRole('button', { name: 'Change the owner…' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Change the owner' }).click();
  await expect(dialog.getByText('Choose someone.')).toBeVisible();
  expect(await accessibilityProblems(page)).toEqual([]);
  await dialog.getByLabel('New owner').selectOption('Oskar Lind');
  await dialog.getByRole('button', { name: 'Change the owner' }).click();
  await expect(dialog).toBeHidden();
  for (const name of names) await expect(page.getByRole('row').filter({ hasText: name })).toContainText('Oskar Lind');
  await page.getByRole('link', { name: names[0] }).click();
  await expect(page.locator('.journal')).toContainText('Owner Priya Nandan → Oskar Lind');
  await page.getByRole('button', { name: 'Watch' }).click();
  await expect(page.getByRole('button', { name: 'Watching' })).toBeVisible();
});

test('who is away hands their day to a colleague, and is back', async ({ page }) => {
  await signIn(page, 'Maud Ellery');
  await openFirstPage(page);
  await page.getByRole('button', { name: 'Away…' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Until, with that day').fill('2026-11-23');
  await dialog.getByLabel('Who sees to it').selectOption('Ravi Castell');
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog.getByText(/no earlier than the first/)).toBeVisible();
  await dialog.getByLabel('Until, with that day').fill('2026-11-27');
  expect(await accessibilityProblems(page)).toEqual([]);
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('button', { name: 'Away until 27 Nov' })).toBeVisible();
  await signIn(page, 'Ravi Castell');
  await page.goto('/today');
  await expect(page.getByText('with that of Maud Ellery, away')).toBeVisible();
  await signIn(page, 'Maud Ellery');
  await page.goto('/today');
  await page.getByRole('button', { name: 'Away until 27 Nov' }).click();
  await dialog.getByRole('button', { name: 'Back already' }).click();
  await expect(page.getByRole('button', { name: 'Away…' })).toBeVisible();
});

test('someone who leaves is emptied in one dialog, and what was set is told before and after', async ({ page }, {
  repeatEachIndex,
}) => {
  const name = `Ada Leaver ${repeatEachIndex}`;
  await signIn(page, 'Maren Holt');
  await page.goto('/settings');
  await page.getByRole('button', { name: 'Add a person' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name').fill(name);
  await dialog.getByLabel('E-mail address').fill(`leaver${repeatEachIndex}@hollin-marsh.example`);
  await dialog.getByLabel('Growers South').check();
  await dialog.getByLabel(/^Password/).fill('a long password');
  await dialog.getByRole('button', { name: 'Add the person' }).click();
  await expect(dialog).toBeHidden();
  await beginDeal(page, `Left behind ${repeatEachIndex}`);
  await page.getByRole('button', { name: 'Other move' }).click();
  await page.getByRole('button', { name: 'Change the owner…' }).click();
  await dialog.getByLabel('New owner').selectOption(name);
  await dialog.getByRole('button', { name: 'Change the owner' }).click();
  await expect(page.locator('.journal')).toContainText(`→ ${name}`);
  await page.goto('/settings');
  await page.getByRole('button', { name: `${name} leaves` }).click();
  await expect(dialog.getByText('1 open deal of theirs')).toBeVisible();
  expect(await accessibilityProblems(page)).toEqual([]);
  await dialog.getByLabel('All of it goes to').selectOption('Bea Ferrant');
  await dialog.getByRole('button', { name: 'Hand all of it over' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByRole('row').filter({ hasText: name })).toContainText('no longer');
  await page.goto('/settings?part=messages');
  await page.getByRole('button', { name: 'Contract is on its way' }).click();
  await expect(dialog.getByLabel('Goes to')).toHaveValue('contact_email');
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await page.goto('/settings?part=changes');
  await expect(page.getByRole('row').filter({ hasText: name }).first()).toContainText('signs in yes → no');
});
