import { expect, test } from '@playwright/test';
import { openFirstPage, signIn } from './people.ts';

test('an administrator adds a team and a person, who signs in, and then may no longer', async ({ page, browser }, {
  repeatEachIndex,
}) => {
  const [team, name, email] = [
    `Orchids ${repeatEachIndex}`,
    `Edda Lowe ${repeatEachIndex}`,
    `edda${repeatEachIndex}@hollin-marsh.example`,
  ];
  await signIn(page, 'Maren Holt');
  await openFirstPage(page);
  await page.getByRole('link', { name: 'Settings' }).click();
  await page.getByRole('button', { name: 'Teams' }).click();
  await page.getByRole('button', { name: 'Add a team' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name').fill('growers NORTH');
  await dialog.getByRole('button', { name: 'Add the team' }).click();
  await expect(dialog.getByRole('alert')).toContainText('already a team with this name');
  await dialog.getByLabel('Name').fill(team);
  await dialog.getByRole('button', { name: 'Add the team' }).click();
  await expect(page.getByRole('button', { name: team })).toBeVisible();

  await page.getByRole('button', { name: 'People' }).click();
  await page.getByRole('button', { name: 'Add a person' }).click();
  await dialog.getByLabel('Name').fill(name);
  await dialog.getByLabel('E-mail address').fill('no address');
  await dialog.getByLabel(team).check();
  await dialog.getByLabel(/^Password/).fill('short');
  await dialog.getByRole('button', { name: 'Add the person' }).click();
  await expect(dialog.getByLabel('E-mail address')).toHaveClass(/is-invalid/);
  await expect(dialog.getByLabel(/^Password/)).toHaveClass(/is-invalid/);
  await dialog.getByLabel('E-mail address').fill(email);
  await dialog.getByLabel(/^Password/).fill('a long password');
  await dialog.getByRole('button', { name: 'Add the person' }).click();
  await expect(page.getByRole('row', { name: new RegExp(name) })).toContainText(team);

  const other = await browser.newPage();
  await other.goto('/sign-in');
  await other.getByLabel('E-mail address').fill(email);
  await other.getByLabel('Password').fill('a long password');
  await other.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(other.getByRole('navigation', { name: 'Areas' })).toBeVisible();
  await expect(other.getByRole('link', { name: 'Settings' })).toHaveCount(0);
  await other.goto('/settings');
  await expect(other.getByText('Settings are for administrators')).toBeVisible();

  await page.getByLabel('Find a person').fill('edda');
  await page.getByRole('button', { name, exact: true }).click();
  await dialog.getByLabel('May sign in').uncheck();
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('row', { name: new RegExp(name) })).toContainText('no longer');
  await other.reload();
  await expect(other).toHaveURL(/sign-in/);
  await other.close();
});

test('a rate is set, and a deal in that currency joins the totals', async ({ page }, { repeatEachIndex }) => {
  const currency = ['SEK', 'NOK', 'DKK', 'PLN', 'CZK'][repeatEachIndex] ?? 'HUF';
  await signIn(page, 'Maren Holt');
  await page.goto('/settings?part=rates');
  await page.getByRole('button', { name: 'Set a rate' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Set the rate' }).click();
  await expect(dialog.getByText('Three letters, such as EUR.')).toBeVisible();
  await dialog.getByLabel('One of').fill('XQX');
  await dialog.getByRole('button', { name: 'Set the rate' }).click();
  await expect(dialog.getByText('A number, such as 0.85.')).toBeVisible();
  await dialog.getByLabel('is worth').fill('0.08');
  await dialog.getByRole('button', { name: 'Set the rate' }).click();
  await expect(dialog.getByText('There is no currency XQX.')).toBeVisible();
  await dialog.getByLabel('One of').fill(currency.toLowerCase());
  await dialog.getByRole('button', { name: 'Set the rate' }).click();
  await expect(page.getByRole('row', { name: `1 ${currency} = 0.08 GBP` })).toBeVisible();
});
