import { expect, type Page, test } from '@playwright/test';
import { accessibilityProblems, beginDeal, editAsDraft, openFirstPage, signIn } from './people.ts';

/* Answers that are lost or late, pages that went stale: nobody is told of somebody else who is not there, and nothing is done twice. */

const RETROFIT = '/processes/01900000-0000-7000-8000-000000040002';
const purpose = (page: Page) => page.getByLabel('What is true of the buyer here');

async function editDraft(page: Page): Promise<void> {
  await signIn(page, 'Maren Holt');
  await page.goto(RETROFIT);
  await editAsDraft(page);
}
async function throwAway(page: Page): Promise<void> {
  page.on('dialog', (dialog) => dialog.accept());
  await page.getByRole('button', { name: 'Throw away' }).click();
  await expect(page.getByRole('button', { name: 'Edit as a draft' })).toBeVisible();
}
test('a draft whose saving was not answered is saved, and nobody else is told of', async ({ page }) => {
  await editDraft(page);
  let lost = 0;
  await page.route('**/draft', async (route) => {
    if (route.request().method() !== 'PUT' || lost > 0) return route.continue();
    lost++;
    await route.fetch();
    return route.abort('connectionreset');
  });
  await purpose(page).fill('Saved, and not told');
  await purpose(page).press('Enter');
  await expect(page.getByRole('alert')).toContainText('Your last changes are not saved.');
  await expect(page.getByText(/saved \d\d:\d\d/)).toBeVisible();
  await expect(page.getByText('Someone else saved this draft')).toHaveCount(0);
  expect(lost).toBe(1);
  await page.reload();
  await expect(purpose(page)).toHaveValue('Saved, and not told');
  await throwAway(page);
});

test('publishing while a save is under way waits for it, and publishes what was written last', async ({ page }) => {
  await editDraft(page);
  await page.route('**/draft', async (route) => {
    if (route.request().method() === 'PUT') await new Promise((resolve) => setTimeout(resolve, 800));
    return route.continue();
  });
  await purpose(page).fill('Written first');
  await purpose(page).press('Enter');
  await purpose(page).fill('Written last');
  await page.getByRole('button', { name: 'Publish…' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toBeVisible();
  await expect(page.getByText('Someone else saved this draft')).toHaveCount(0);
  await dialog.getByRole('button', { name: 'Publish', exact: true }).click();
  await expect(page.getByText(/^Version \d, live/)).toBeVisible();
  await page.reload();
  await expect(purpose(page)).toHaveValue('Written last');
});

test('a card that is dropped as it was seen before someone else changed its deal goes nowhere', async ({
  page,
  browser,
}) => {
  await signIn(page, 'Maud Ellery');
  await beginDeal(page, 'Stale card');
  const deal = page.url();
  await page.goto('/deals');
  await page.getByLabel('Owner').selectOption('Maud Ellery');
  const card = page.getByRole('link', { name: /Stale card/ });
  await card.focus();
  const other = await browser.newPage();
  await signIn(other, 'Ravi Castell');
  await other.goto(deal);
  await other.getByRole('button', { name: /^All \d+ fields/ }).click();
  await other.getByRole('region', { name: 'Fields' }).getByLabel('Source').fill('A fair');
  await other.getByRole('region', { name: 'Fields' }).getByLabel('Source').press('Enter');
  await expect(other.locator('.journal')).toContainText('A fair');
  await page.keyboard.press('Space');
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('region', { name: 'Survey' }).getByRole('status')).toContainText('would be held');
  await page.keyboard.press('Space');
  await expect(page.getByRole('alert')).toContainText('was changed since');
  await expect(page).toHaveURL(/\/deals\?/);
  await other.close();
});

test('a deal that was asked for before one’s own change and is answered after it does not undo what is seen', async ({
  page,
}) => {
  await signIn(page, 'Bea Ferrant');
  await beginDeal(page, 'Answered late', '/deals?process=01900000-0000-7000-8000-000000040001');
  await page.getByRole('button', { name: 'Move on' }).click();
  await expect(page.locator('.deal-title')).toContainText('Held');
  const row = (name: string) => page.locator('.gate-row', { hasText: name }).first();
  const isDeal = /api\/v1\/deals\/[^/]+$/;
  const late: (() => Promise<void>)[] = [];
  await page.route(isDeal, async (route) => {
    if (route.request().method() !== 'GET') return route.continue();
    const asItWas = await route.fetch();
    late.push(() => route.fulfill({ response: asItWas }));
  });
  await row('Brief call held').getByLabel('Brief call held done').click();
  await expect.poll(() => late.length).toBe(1);
  const edited = page.waitForResponse((answer) => answer.request().method() === 'PATCH');
  await row('Glazed area').getByLabel('Glazed area').fill('4200');
  await row('Glazed area').getByLabel('Glazed area').press('Enter');
  await edited;
  await late[0]?.();
  await expect.poll(() => late.length).toBe(2);
  const moved = page.waitForResponse((answer) => answer.url().endsWith('/moves'));
  await page.getByRole('button', { name: 'Move on' }).click();
  expect((await moved).status()).toBe(422);
  await late[1]?.();
  await page.unroute(isDeal);
  await expect(row('Glazed area')).toContainText('✓ met');
  await expect(page.locator('.journal').getByText(/refused: \d+ requirement/)).toHaveCount(2);
  await expect(page.getByText('was changed since')).toHaveCount(0);
});

test('of two changes that are answered in the other order, the later stays what is seen', async ({ page }) => {
  await signIn(page, 'Bea Ferrant');
  await beginDeal(page, 'Answered crosswise', '/deals?process=01900000-0000-7000-8000-000000040001');
  await page.getByRole('button', { name: 'Move on' }).click();
  await expect(page.locator('.deal-title')).toContainText('Held');
  const row = (name: string) => page.locator('.gate-row', { hasText: name }).first();
  const held: (() => Promise<void>)[] = [];
  // The deal is not read again, so that it is as its changes were answered.
  await page.route(/api\/v1\/deals\/[^/]+$/, async (route) => {
    if (route.request().method() === 'GET') return;
    if (held.length > 0) return route.continue();
    held.push(() => Promise.resolve());
    const response = await route.fetch();
    held.push(() => route.fulfill({ response }));
  });
  await row('Planning').getByLabel('Planning').selectOption('Granted');
  await expect.poll(() => held.length).toBe(2);
  const answered = () => page.waitForResponse((answer) => answer.request().method() === 'PATCH');
  const later = answered();
  await row('Glazed area').getByLabel('Glazed area').fill('4200');
  await row('Glazed area').getByLabel('Glazed area').press('Enter');
  await (await later).finished();
  const earlier = answered();
  await held[1]?.();
  await (await earlier).finished();
  const moved = page.waitForResponse((answer) => answer.url().endsWith('/moves'));
  await page.getByRole('button', { name: 'Move on' }).click();
  expect((await moved).status()).toBe(422);
});

test('a press whose answer is lost is done once, however often it is pressed', async ({ page }) => {
  await signIn(page, 'Bea Ferrant');
  await beginDeal(page, 'Pressed twice');
  let lost = 0;
  await page.route('**/activities', async (route) => {
    if (lost > 0) return route.continue();
    lost++;
    await route.fetch();
    return route.abort('connectionreset');
  });
  await page.getByLabel('Write what happened').fill('Said once.');
  const add = page.getByRole('button', { name: 'Add', exact: true });
  await add.click();
  await expect(page.getByLabel('Write what happened')).toHaveClass(/is-invalid/);
  await add.click();
  await expect(page.getByLabel('Write what happened')).toHaveValue('');
  await expect(page.locator('.journal .markdown').filter({ hasText: 'Said once.' })).toHaveCount(1);
});

test('one’s own password is changed, and what is wrong is told at its box', async ({ page }) => {
  await signIn(page, 'Jun Aoki');
  await openFirstPage(page);
  await page.getByRole('button', { name: 'Password' }).click();
  const dialog = page.getByRole('dialog', { name: 'Change your password' });
  const [present, next] = [dialog.getByLabel('Present password'), dialog.getByLabel(/^New password/)];
  await present.fill('not mine');
  await next.fill('short');
  await dialog.getByRole('button', { name: 'Change it' }).click();
  await expect(next).toHaveClass(/is-invalid/);
  await next.fill('a longer password');
  await dialog.getByRole('button', { name: 'Change it' }).click();
  await expect(present).toHaveClass(/is-invalid/);
  expect(await accessibilityProblems(page)).toEqual([]);
  await present.fill('glasshouse');
  await dialog.getByRole('button', { name: 'Change it' }).click();
  await expect(dialog).toHaveCount(0);
  await page.getByRole('button', { name: 'Sign out' }).click();
  await page.getByLabel('E-mail address').fill('jun@hollin-marsh.example');
  await page.getByLabel('Password').fill('a longer password');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByRole('navigation', { name: 'Areas' })).toBeVisible();
  await page.getByRole('button', { name: 'Password' }).click();
  await present.fill('a longer password');
  await next.fill('glasshouse');
  await dialog.getByRole('button', { name: 'Change it' }).click();
  await expect(dialog).toHaveCount(0);
});

test('an administrator erases a text; that it was erased stays in the journal', async ({ page }) => {
  await signIn(page, 'Maren Holt');
  await beginDeal(page, 'Erased words');
  await page.getByLabel('Write what happened').fill('Somebody’s private number.');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.locator('.journal .markdown')).toHaveCount(1);
  page.on('dialog', (dialog) => dialog.accept());
  await page.getByRole('button', { name: 'Erase the text' }).click();
  await expect(page.locator('.journal')).toContainText('Erased');
  await expect(page.locator('.journal')).not.toContainText('private number');
  await page.reload();
  await expect(page.locator('.journal .entry.text_erased')).toHaveCount(1);
  await expect(page.locator('.journal')).not.toContainText('private number');
});
