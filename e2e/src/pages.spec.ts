import { expect, type Page, test } from '@playwright/test';
import { accessibilityProblems, openFirstPage, signIn } from './people.ts';

const NEW_BUILD = '01900000-0000-7000-8000-000000040001';
const PAGES = [
  '/today',
  '/today/week',
  '/today/month',
  '/deals',
  '/deals?view=table',
  '/processes',
  '/processes/fields',
  '/processes/calendars',
  '/processes/fields?field=margin',
  `/processes/${NEW_BUILD}`,
  `/processes/${NEW_BUILD}/versions`,
  '/compliance',
  '/movement',
  '/data',
  '/settings',
  '/settings?part=rates',
  '/settings?part=messages',
  '/settings?part=changes',
  '/bell',
];

const show = (page: Page, theme: 'light' | 'dark') =>
  page.evaluate((shown) => {
    document.documentElement.dataset.bsTheme = shown;
  }, theme);

/** What axe finds in either theme: of all rules, contrast alone hangs on it. */
async function problemsOf(page: Page): Promise<readonly string[]> {
  await show(page, 'light');
  const inLight = await accessibilityProblems(page);
  await show(page, 'dark');
  return [...inLight, ...(await accessibilityProblems(page, 'color-contrast'))];
}

test('every page is accessible, in the light theme and in the dark', async ({ page }) => {
  await page.goto('/sign-in');
  expect(await problemsOf(page)).toEqual([]);
  await signIn(page, 'Maren Holt');
  for (const path of PAGES) {
    await page.goto(path);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await page.waitForLoadState('networkidle');
    expect(await problemsOf(page), path).toEqual([]);
  }
  await page.goto('/deals?view=table');
  await page.locator('table.plain a').first().click();
  await expect(page.getByRole('heading', { name: 'Journal' })).toBeVisible();
  await page.getByRole('button', { name: /^All \d+ fields/ }).click();
  expect(await problemsOf(page)).toEqual([]);
  await page.getByRole('button', { name: 'Close deal' }).click();
  await page.getByRole('button', { name: 'As won…' }).click();
  await expect(page.getByRole('dialog').getByLabel('Reason')).toBeVisible();
  expect(await problemsOf(page)).toEqual([]);
});

test('a finding leads to its deal, and a number in the table to its findings', async ({ page }) => {
  await signIn(page, 'Tomas Verhey');
  await page.goto('/compliance');
  const cell = page.getByRole('button', { name: /^All stages, Past target/ });
  const count = Number(await cell.textContent());
  await cell.click();
  await expect(page.getByRole('heading', { name: 'past target' })).toBeVisible();
  await expect(page.locator('.findings tbody tr')).toHaveCount(Math.min(count, 25));
  await page.locator('.findings tbody a').first().click();
  await expect(page.getByRole('heading', { name: /What it owes/ })).toBeVisible();
  await expect(page.getByText('Move on by')).toBeVisible();
});

test('a viewer looks and changes nothing; a seller sees no Data', async ({ page }) => {
  await signIn(page, 'Lena Ros');
  await openFirstPage(page);
  await expect(page.getByRole('button', { name: 'New deal' })).toHaveCount(0);
  await page.goto('/deals?view=table');
  await page.locator('table.plain a').first().click();
  await expect(page.getByRole('heading', { name: 'Journal' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Move on' })).toHaveCount(0);
  await expect(page.getByLabel('Write what happened')).toHaveCount(0);
  await page.getByRole('button', { name: 'Sign out' }).click();
  await page.getByRole('button', { name: 'Priya Nandan' }).click();
  await expect(page.getByRole('navigation', { name: 'Areas' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Data' })).toHaveCount(0);
  await page.goto('/data');
  await expect(page.getByText('Data is for administrators')).toBeVisible();
});

test('bad files and addresses are told plainly', async ({ page }) => {
  await signIn(page, 'Maren Holt');
  await page.goto('/data');
  const upload = (name: string, content: Buffer) =>
    page.getByLabel('CSV file').setInputFiles({ name, mimeType: 'text/csv', buffer: content });
  await upload('picture.csv', Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 0, 13]));
  await expect(page.getByRole('alert')).toContainText('This is not a text file.');
  await upload('open.csv', Buffer.from('Name,Value\n"North,1\nSouth,2\n'));
  await expect(page.getByRole('alert')).toContainText('never closed');
  await page.goto('/deals/00000000-0000-4000-8000-000000000000');
  await expect(page.getByText('There is no such deal, or it is not yours to see.')).toBeVisible();
  await page.goto('/nowhere');
  await expect(page.getByText('There is no such page')).toBeVisible();
});
