import { type Browser, expect, type Locator, type Page, test } from '@playwright/test';
import { beginDeal, openFirstPage, signIn } from './people.ts';

const MOST_TABS = 120;

/** Goes to a control by Tab alone. */
async function tabTo(page: Page, control: Locator): Promise<void> {
  for (let tabs = 0; tabs < MOST_TABS; tabs++) {
    if (await control.evaluate((element) => element === document.activeElement)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error('Tab does not lead there');
}

/** A second browser of another person, or of the same one elsewhere. */
async function elsewhere(browser: Browser, name: string): Promise<Page> {
  const page = await (await browser.newContext()).newPage();
  await signIn(page, name);
  return page;
}

test('a deal is begun, put right, moved and taken back with the keyboard alone', async ({ page }) => {
  await page.goto('/sign-in');
  await page.getByRole('button', { name: 'Oskar Lind' }).waitFor();
  await tabTo(page, page.getByRole('button', { name: 'Oskar Lind' }));
  await page.keyboard.press('Enter');
  await page.getByRole('link', { name: 'Deals', exact: true }).waitFor();
  await tabTo(page, page.getByRole('link', { name: 'Deals', exact: true }));
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'New deal' }).waitFor();
  await tabTo(page, page.getByRole('button', { name: 'New deal' }));
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Name of the deal')).toBeFocused();
  await page.keyboard.type('By hand alone');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'By hand alone' })).toBeVisible();

  const gate = page.getByRole('region', { name: /To reach Survey/ });
  await tabTo(page, gate.getByLabel('Brief call held done'));
  await page.keyboard.press('Space');
  await expect(gate).toContainText('1 of');
  await tabTo(page, gate.getByLabel('Glazed area'));
  await page.keyboard.type('4200');
  await page.keyboard.press('Tab');
  await expect(gate).toContainText('2 of');
  await tabTo(page, gate.getByLabel('Planning'));
  await page.keyboard.type('Granted');
  await page.keyboard.press('Tab');
  await expect(gate).toContainText('3 of');
  await tabTo(page, gate.getByLabel('Crop'));
  await page.keyboard.type('Berries');
  await page.keyboard.press('Tab');
  await expect(gate).toContainText('4 of');
  if ((await gate.getByLabel('Site notes').count()) > 0) {
    await tabTo(page, gate.getByLabel('Site notes'));
    await page.keyboard.type('Level ground');
    await page.keyboard.press('Tab');
  }
  await expect(page.locator('#move-why')).toContainText('To Survey');
  await tabTo(page, page.getByRole('button', { name: 'Move on' }));
  await page.keyboard.press('Enter');
  await expect(page.locator('.climb [aria-current="step"]')).toContainText('Survey');

  await tabTo(page, page.getByRole('button', { name: 'Take back the move…' }));
  await page.keyboard.press('Enter');
  await page.keyboard.type('Too early');
  await tabTo(page, page.getByRole('dialog').getByRole('button', { name: 'Take back' }));
  await page.keyboard.press('Enter');
  await expect(page.locator('.climb [aria-current="step"]')).toContainText('Site brief');
});

test('of two who write the same field the later is told, at the field, and both see what stands', async ({
  page,
  browser,
}) => {
  await signIn(page, 'Priya Nandan');
  await beginDeal(page, 'Written by two');
  const other = await elsewhere(browser, 'Oskar Lind');
  await other.goto(page.url());
  for (const one of [page, other]) await one.getByRole('button', { name: /^All \d+ fields/ }).click();
  const source = (one: Page) => one.getByRole('region', { name: 'Fields' }).getByLabel('Source');
  await source(page).fill('A fair');
  await source(page).press('Enter');
  await expect(page.locator('.journal')).toContainText('A fair');
  await source(other).fill('A friend');
  await source(other).press('Enter');
  await expect(other.getByRole('region', { name: 'Fields' })).toContainText('Someone else changed this meanwhile');
  await other.reload();
  await other.getByRole('button', { name: /^All \d+ fields/ }).click();
  await expect(source(other)).toHaveValue('A fair');
  await other.context().close();
});

test('a move on a deal that changed meanwhile is told, and the next try works on what stands', async ({
  page,
  browser,
}) => {
  await signIn(page, 'Priya Nandan');
  await beginDeal(page, 'Changed meanwhile');
  const other = await elsewhere(browser, 'Oskar Lind');
  await other.goto(page.url());
  await other
    .getByRole('region', { name: /To reach Survey/ })
    .getByLabel('Brief call held done')
    .click();
  await expect(other.locator('.journal')).toContainText('Brief call held ticked');
  await page.getByRole('button', { name: 'Move on' }).click();
  await expect(page.locator('#move-why')).toContainText('was changed since you opened it');
  await expect(page.locator('.journal')).toContainText('Brief call held ticked');
  await page.getByRole('button', { name: 'Move on' }).click();
  await expect(page.locator('.deal-title')).toContainText('Held');
  await other.context().close();
});

test('who is signed out meanwhile signs in again where they are, and what they wrote is still there', async ({
  page,
}) => {
  await signIn(page, 'Bea Ferrant');
  await beginDeal(page, 'Signed out meanwhile');
  await page.getByLabel('Write what happened').fill('They want a second door.');
  await page.context().clearCookies();
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  const dialog = page.getByRole('dialog', { name: 'You were signed out' });
  await dialog.getByLabel('E-mail address').fill('bea@hollin-marsh.example');
  await dialog.getByLabel('Password').fill('wrong password');
  await dialog.getByRole('button', { name: 'Sign in' }).click();
  await expect(dialog).toContainText('The e-mail address or the password is not right.');
  await dialog.getByLabel('Password').fill('glasshouse');
  await dialog.getByRole('button', { name: 'Sign in' }).click();
  await expect(dialog).toHaveCount(0);
  await expect(page.getByLabel('Write what happened')).toHaveValue('They want a second door.');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.locator('.journal')).toContainText('They want a second door.');
});

test('a very long name is shown whole on its page and cut on its card, and breaks nothing', async ({ page }) => {
  const name = `${'Thornfieldandsonsofthenorthernvalley'.repeat(4)} and the rest`;
  await signIn(page, 'Priya Nandan');
  await beginDeal(page, name);
  const wide = () => page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth);
  expect(await wide()).toBe(true);
  await page.goto('/deals?view=table&find=Thornfieldandsons');
  await expect(page.getByRole('link', { name })).toBeVisible();
  expect(await wide()).toBe(true);
  await page.goto('/deals');
  await page.getByLabel('Owner').selectOption('Priya Nandan');
  await expect(page.locator('.figures')).toContainText('open deals of');
  expect(await wide()).toBe(true);
});

test('a call of another day is written down late, and stands on its day', async ({ page }) => {
  await signIn(page, 'Priya Nandan');
  await beginDeal(page, 'Called late');
  await page.getByText('call', { exact: true }).click();
  await page.getByLabel('Write what happened').fill('Asked about the drains.');
  await page.getByLabel('Done on').fill('2026-11-20');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  const entry = page.locator('.entry', { hasText: 'Asked about the drains.' });
  await expect(entry).toContainText('Call');
  await expect(entry).toContainText('20 Nov');
  await expect(page.getByLabel('Done on')).toHaveValue('2026-11-24');
});

test('a manager merges a duplicate into the deal that stays, and each leads to the other', async ({ page }, {
  repeatEachIndex,
}) => {
  const [kept, duplicate] = [`Kept glass ${repeatEachIndex}`, `Doubled glass ${repeatEachIndex}`];
  await signIn(page, 'Tomas Verhey');
  await beginDeal(page, kept);
  await beginDeal(page, duplicate);
  await page.getByRole('button', { name: 'Other move' }).click();
  await page.getByRole('button', { name: 'Void as a test or duplicate…' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('It repeats another deal').check();
  await dialog.getByRole('button', { name: 'Void the deal' }).click();
  await expect(dialog).toContainText('Choose the deal that stays.');
  await expect(dialog).toContainText('Say why.');
  await dialog.getByLabel('The deal that stays').fill(kept);
  await dialog.getByLabel(new RegExp(`^${kept}`)).check();
  await dialog.getByLabel('Why?').fill('Entered twice');
  await dialog.getByRole('button', { name: 'Void the deal' }).click();
  await expect(page.locator('.deal-title')).toContainText('Voided');
  await page
    .locator('.journal')
    .getByRole('link', { name: `Open ${kept}` })
    .click();
  await expect(page.getByRole('heading', { level: 1, name: kept })).toBeVisible();
  await expect(page.locator('.journal')).toContainText(`Merged into this: ${duplicate}`);
});

test('the theme is chosen once and stays', async ({ page }) => {
  await signIn(page, 'Lena Ros');
  await openFirstPage(page);
  const theme = () => page.evaluate(() => document.documentElement.dataset.bsTheme);
  const before = await theme();
  await page.getByRole('button', { name: before === 'dark' ? 'Light' : 'Dark' }).click();
  const after = await theme();
  expect(after).not.toBe(before);
  await page.reload();
  await page.getByRole('navigation', { name: 'Areas' }).waitFor();
  expect(await theme()).toBe(after);
});
