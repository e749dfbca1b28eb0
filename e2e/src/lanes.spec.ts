import { expect, type Page, test } from '@playwright/test';
import { accessibilityProblems, beginDeal, openFirstPage, signIn } from './people.ts';

/** The lanes with one owner's deals, once they stand still. */
async function lanesOf(page: Page, owner: string): Promise<void> {
  await page.goto('/deals');
  await page.getByLabel('Owner').selectOption(owner);
  await expect(page.locator('.figures')).toContainText('open deals of');
}

test('a drag shows the verdict before the drop, and a held drop opens the deal with what is missing', async ({
  page,
}) => {
  await signIn(page, 'Priya Nandan');
  await beginDeal(page, 'Dragged deal');
  await lanesOf(page, 'Priya Nandan');
  const card = page.getByRole('link', { name: /Dragged deal/ });
  const survey = page.getByRole('region', { name: 'Survey' });
  const from = await card.boundingBox();
  const to = await survey.boundingBox();
  if (!from || !to) throw new Error('The card or the rung is not there');
  await page.mouse.move(from.x + 40, from.y + 15);
  await page.mouse.down();
  await page.mouse.move(from.x + 60, from.y + 40, { steps: 4 });
  await page.mouse.move(to.x + 400, to.y + 45, { steps: 8 });
  await expect(survey.getByRole('status')).toContainText('would be held');
  await expect(survey.getByRole('status')).toContainText('Brief call held is ticked');
  await page.mouse.up();
  await expect(page).toHaveURL(/toward=stage/);
  await expect(page.getByRole('heading', { name: /To reach Survey/ })).toBeVisible();
  await expect(page.locator('.deal-title')).toContainText('Held');
});

test('the keyboard carries a deal to another rung, puts it back, and lets go of it there', async ({ page }) => {
  await signIn(page, 'Priya Nandan');
  await beginDeal(page, 'Carried deal');
  await lanesOf(page, 'Priya Nandan');
  const card = page.getByRole('link', { name: /Carried deal/ });
  const verdict = page.locator('.drop-verdict');
  await card.focus();
  await page.keyboard.press('Space');
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('region', { name: 'Survey' }).getByRole('status')).toContainText('would be held');
  await page.keyboard.press('Escape');
  await expect(verdict).toHaveCount(0);
  await page.keyboard.press('Space');
  for (const key of ['ArrowDown', 'ArrowDown', 'ArrowUp', 'ArrowUp', 'ArrowUp']) await page.keyboard.press(key);
  await expect(verdict).toHaveCount(0);
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Space');
  await expect(page.getByRole('heading', { name: /To reach Survey/ })).toBeVisible();
  await expect(page.getByRole('heading', { level: 1, name: 'Carried deal' })).toBeVisible();
});

test('a deal that is opened from a lane shows at once what the lane knew of it', async ({ page }) => {
  await signIn(page, 'Priya Nandan');
  await page.goto('/deals');
  const card = page.locator('a.deal-card').first();
  const [name, href] = [await card.locator('b').textContent(), await card.getAttribute('href')];
  let send: () => void = () => undefined;
  const isSent = new Promise<void>((resolve) => {
    send = resolve;
  });
  await page.route(`**/api/v1${href}`, async (route) => {
    await isSent;
    await route.continue();
  });
  await card.click();
  await expect(page.getByRole('heading', { level: 1, name: name ?? 'no name' })).toBeVisible();
  await expect(page.locator('.deal-facts')).toContainText('Priya Nandan');
  await expect(page.getByRole('heading', { name: 'Journal' })).toHaveCount(0);
  send();
  await expect(page.getByRole('heading', { name: 'Journal' })).toBeVisible();
});

test('lanes stand as they did at the end of a past day: by age, and with nothing to move', async ({ page }) => {
  await signIn(page, 'Priya Nandan');
  await page.goto('/deals');
  await expect(page.getByRole('region', { name: 'Won' })).toBeVisible();
  const figures = page.locator('.figures');
  const today = await figures.textContent();
  await page.getByLabel('As of').fill('2026-03-31');
  await expect(page).toHaveURL(/on=2026-03-31/);
  await expect(page.getByText(/^As of the end of 31 Mar/)).toBeVisible();
  await expect(figures).not.toHaveText(today ?? '');
  const lanes = page.locator('.lanes');
  await expect(lanes.locator('.deal-card.stack').first()).toBeVisible();
  await expect(lanes.getByRole('link')).toHaveCount(0);
  await expect(page.getByRole('region', { name: 'Won' })).toHaveCount(0);
  expect(await accessibilityProblems(page)).toEqual([]);
  // The table lists deals as they are.
  await page.getByRole('button', { name: 'Table' }).click();
  await expect(page.getByLabel('As of')).toHaveCount(0);
  await expect(figures).toHaveText(today ?? '');
  await page.getByRole('button', { name: 'Lanes' }).click();
  await page.getByRole('button', { name: 'Back to today' }).click();
  await expect(lanes.getByRole('link').first()).toBeVisible();
});

test('Enter on a card opens its deal', async ({ page }) => {
  await signIn(page, 'Priya Nandan');
  await page.goto('/deals');
  const card = page.locator('a.deal-card').first();
  const name = await card.locator('b').textContent();
  await card.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: name ?? 'no name' })).toBeVisible();
});

test('a crowd opens as a list, filters stand in the address, and finding shows a table', async ({ page }) => {
  await signIn(page, 'Maren Holt');
  await openFirstPage(page);
  await page
    .getByRole('button', { name: /more deals in/ })
    .first()
    .click();
  await expect(page.locator('.crowd-list a').first()).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByLabel('Only held').click();
  await expect(page).toHaveURL(/standing=held/);
  const figures = page.locator('.figures > div');
  await expect(async () =>
    expect(await figures.nth(0).locator('dd').textContent()).toBe(await figures.nth(3).locator('dd').textContent()),
  ).toPass();
  await page.getByLabel('Only held').click();
  await page.keyboard.press('/');
  await page.keyboard.type('nothing is called so');
  await expect(page.getByText('Nothing is called “nothing is called so”.')).toBeVisible();
  await page.goto('/deals?owner=01900000-0000-7000-8000-0000000fffff');
  await expect(page.getByLabel('Owner').locator('option:checked')).toHaveText('Another');
});

test('the first page asks for all that it shows in one round', async ({ page }) => {
  await signIn(page, 'Priya Nandan');
  await page.goto('/deals');
  await expect(page.locator('a.deal-card').first()).toBeVisible();
  const asked = new Set<string>();
  let answer: () => void = () => undefined;
  const areAsked = new Promise<void>((resolve) => {
    answer = resolve;
  });
  // Nothing is answered before everything is asked for.
  await page.route('**/api/v1/**', async (route) => {
    asked.add(new URL(route.request().url()).pathname.replace(/[0-9a-f-]{36}/, 'id'));
    if (asked.size === 5) answer();
    await areAsked;
    await route.continue();
  });
  await page.reload();
  await expect(page.locator('a.deal-card').first()).toBeVisible();
  expect([...asked].sort()).toEqual(
    ['/session', '/processes', '/people', '/teams', '/processes/id/lanes', '/today/late', '/bell/unread']
      .map((path) => `/api/v1${path}`)
      .sort(),
  );
});

test('a first visit shows the process of most deals, with its lanes asked for once', async ({ page }) => {
  await signIn(page, 'Priya Nandan');
  const asked: string[] = [];
  page.on('request', (request) => asked.push(new URL(request.url()).pathname.replace(/[0-9a-f-]{36}/, 'id')));
  await page.goto('/deals');
  await expect(page.locator('a.deal-card').first()).toBeVisible();
  expect(asked.filter((path) => path.endsWith('/lanes'))).toEqual(['/api/v1/lanes']);
});

test('a long table has the rows that are near, reads on by itself, and goes to its end', async ({ page }) => {
  const [all, each] = [500, 100];
  await signIn(page, 'Maren Holt');
  // The company's deals are few: here each page is its first deal again and again.
  await page.route('**/api/v1/deals?**', async (route) => {
    const url = new URL(route.request().url());
    const place = Number(url.searchParams.get('after') ?? 0);
    url.searchParams.delete('after');
    const answer = await route.fetch({ url: url.href });
    const { items } = await answer.json();
    const names = Array.from({ length: each }, (_, n) => ({ id: `deal-${place + n}`, name: `Deal ${place + n + 1}` }));
    const next = place + each < all ? String(place + each) : null;
    await route.fulfill({ response: answer, json: { items: names.map((own) => ({ ...items[0], ...own })), next } });
  });
  await page.goto('/deals?view=table');
  const rows = page.locator('tr[aria-rowindex]');
  await expect(page.getByRole('link', { name: 'Deal 1', exact: true })).toBeVisible();
  await expect(async () => {
    await page.keyboard.press('End');
    await expect(page.getByRole('link', { name: `Deal ${all}`, exact: true })).toBeVisible({ timeout: 1_000 });
  }).toPass({ intervals: [100] });
  expect(await rows.count()).toBeLessThan(60);
  expect(await accessibilityProblems(page)).toEqual([]);
  await expect(page.locator('table')).toHaveAttribute('aria-rowcount', String(all + 1));
  await expect(async () => {
    await page.keyboard.press('Home');
    await expect(page.getByRole('link', { name: 'Deal 1', exact: true })).toBeVisible({ timeout: 1_000 });
  }).toPass({ intervals: [100] });
});
