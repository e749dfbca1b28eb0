import { expect, test } from '@playwright/test';
import { accessibilityProblems, openFirstPage, signIn } from './people.ts';

const NEW_BUILD = '01900000-0000-7000-8000-000000040001';

test('compliance narrowed to a team stays narrowed in the address, and adds up with what the list shows', async ({
  page,
}) => {
  await signIn(page, 'Tomas Verhey');
  await page.goto(`/compliance?process=${NEW_BUILD}`);
  const all = page.getByRole('row', { name: /^All open/ });
  const deals = async () =>
    Number((await page.locator('.key-figures > div').nth(0).textContent())?.match(/of ([\d,]+)/)?.[1]);
  const whole = await deals();
  await page.getByLabel('Team').selectOption('Growers South');
  await expect(page).toHaveURL(/team=/);
  await expect.poll(deals).toBeLessThan(whole);
  await expect(all).toContainText(String(await deals()));
  await page.reload();
  await expect(page.getByLabel('Team')).toHaveValue(/.+/);
  await expect.poll(deals).toBeLessThan(whole);
});

test('a count in the table leads to just those findings, and back to all', async ({ page }) => {
  await signIn(page, 'Maren Holt');
  await page.goto(`/compliance?process=${NEW_BUILD}`);
  const cell = page.getByRole('button', { name: /^Survey, Past target/ });
  const count = Number(await cell.textContent());
  await cell.click();
  await expect(page.getByRole('heading', { name: 'Survey: past target' })).toBeVisible();
  await expect(page.locator('.findings tbody tr')).toHaveCount(Math.min(count, 25));
  await page.getByRole('button', { name: 'Show all' }).click();
  await expect(page.getByRole('heading', { name: 'All findings' })).toBeVisible();
});

test('compliance is told as of a past day, by the day that is typed, and goes back to today', async ({ page }) => {
  await signIn(page, 'Lena Ros');
  await page.goto(`/compliance?process=${NEW_BUILD}`);
  const all = page.getByRole('row', { name: /^All open/ });
  await expect(page.getByRole('heading', { name: 'All findings' })).toBeVisible();
  const today = await all.textContent();
  await page.getByLabel('As of').fill('2026-03-31');
  await expect(page).toHaveURL(/on=2026-03-31/);
  await expect(page.getByText(/^As of the end of 31 Mar/)).toBeVisible();
  await expect(page.getByRole('heading', { name: 'All findings' })).toHaveCount(0);
  const then = await all.textContent();
  expect(then).not.toBe(today);
  const known = page.getByLabel('As it was known then');
  await page.getByText('As it was known then').click();
  await expect(known).toBeChecked();
  await expect(page).toHaveURL(/known=then/);
  await expect(page.getByText(/as if it had not been yet/)).toBeVisible();
  expect(await accessibilityProblems(page)).toEqual([]);
  await page.getByText('As it was known then').click();
  await expect(known).not.toBeChecked();
  await expect(page.getByText(/as it is known now/)).toBeVisible();
  // Kept in the address; a day that is not whole, or to come, is not asked for.
  await page.reload();
  await expect(all).toHaveText(then ?? '');
  await page.getByLabel('As of').fill('');
  await page.getByLabel('As of').blur();
  await expect(page.getByLabel('As of')).toHaveValue('2026-03-31');
  await page.goto(`/compliance?process=${NEW_BUILD}&on=2199-01-01`);
  await expect(page.getByRole('alert')).toContainText('Today or a day before.');
  await page.goBack();
  await page.getByRole('button', { name: 'Back to today' }).click();
  await expect(all).toHaveText(today ?? '');
  await expect(page.getByRole('heading', { name: 'All findings' })).toBeVisible();
});

test('movement is told for a period, and stages add up', async ({ page }) => {
  await signIn(page, 'Maren Holt');
  await page.goto(`/movement?process=${NEW_BUILD}`);
  const begun = async () =>
    Number(await page.locator('.key-figures > div').nth(2).locator('.figure-head').textContent());
  const year = await begun();
  await page.getByLabel('Period').selectOption('Last two years');
  await expect.poll(begun).toBeGreaterThan(year);
  await page.getByLabel('Period').selectOption('Last 13 weeks');
  await expect.poll(begun).toBeLessThan(year);
  await expect(page).toHaveURL(/days=91/);
});

test('movement is told as of a past day, by what is known now or was known then', async ({ page }) => {
  await signIn(page, 'Lena Ros');
  await page.goto(`/movement?process=${NEW_BUILD}`);
  const all = page.getByRole('row', { name: /^All stages/ });
  const today = await all.textContent();
  await page.getByLabel('As of').fill('2026-03-31');
  await expect(page.getByText(/^As of the end of 31 Mar.* as it is known now/)).toBeVisible();
  await expect(page.getByText(/^Moves from 31 Mar 2025 to 31 Mar/)).toBeVisible();
  expect(await all.textContent()).not.toBe(today);
  await page.getByText('As it was known then').click();
  await expect(page.getByText(/as if it had not been yet/)).toBeVisible();
  await expect(page).toHaveURL(/known=then/);
  expect(await accessibilityProblems(page)).toEqual([]);
  await page.getByRole('button', { name: 'Back to today' }).click();
  await expect(all).toHaveText(today ?? '');
  await page.goto(`/movement?process=${NEW_BUILD}&on=2019-01-01`);
  await expect(page.getByRole('heading', { name: 'No stages on that day' })).toBeVisible();
  await page.goto(`/movement?process=${NEW_BUILD}&on=2199-01-01`);
  await expect(page.getByRole('alert')).toContainText('Today or a day before.');
});

test('a process without deals says so on every page', async ({ page }, { repeatEachIndex }) => {
  await signIn(page, 'Maren Holt');
  await page.goto('/processes');
  await page.getByRole('button', { name: 'New process' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name', { exact: true }).fill(`Without deals ${repeatEachIndex}`);
  await dialog.getByLabel('First stage').fill('Begun');
  await dialog.getByRole('button', { name: 'Begin the draft' }).click();
  await page.getByRole('button', { name: 'Publish…' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Publish', exact: true }).click();
  await expect(page.getByText('Version 1, live')).toBeVisible();
  const process = new URL(page.url()).pathname.split('/').pop();
  await page.goto(`/deals?process=${process}`);
  await expect(page.getByRole('region', { name: 'Begun' })).toContainText('no deals');
  await page.goto(`/deals?process=${process}&view=table`);
  await expect(page.locator('main')).toContainText(/No deal|Nothing/);
  await page.goto(`/compliance?process=${process}`);
  await expect(page.locator('main')).toContainText(/No open deals|Nothing found/);
  await page.goto(`/movement?process=${process}`);
  await expect(page.locator('main')).toContainText('nothing closed in this period');
});

test('a manager sees the teams’ deals and designs nothing', async ({ page }) => {
  await signIn(page, 'Tomas Verhey');
  await openFirstPage(page);
  for (const area of ['Data', 'Settings']) await expect(page.getByRole('link', { name: area })).toHaveCount(0);
  await page.goto(`/processes/${NEW_BUILD}`);
  await expect(page.getByRole('button', { name: 'Edit as a draft' })).toHaveCount(0);
  await expect(page.getByLabel('Chance of winning from here')).toBeDisabled();
  await page.getByRole('button', { name: /^Survey/ }).click();
  await expect(page).toHaveURL(/at=stage/);
  await page.reload();
  await expect(page.getByRole('heading', { name: /Survey/ }).first()).toBeVisible();
  await expect(page.getByRole('button', { name: /Add requirement/ })).toHaveCount(0);
});
