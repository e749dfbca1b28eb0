import { expect, type Page } from '@playwright/test';
import { read, send } from './api.ts';

export const rowOf = (page: Page, name: string) => page.locator('.day-row').filter({ hasText: name });
export const pane = (page: Page) => page.getByRole('complementary', { name: 'At hand' });

/** Opens the day, and all of it. */
export async function openDay(page: Page): Promise<void> {
  await page.goto('/today');
  await showWholeDay(page);
}

/** The company is shared: what other tests left held or late may stand before what is looked for. */
export async function showWholeDay(page: Page): Promise<void> {
  await expect(page.locator('.day-row').first()).toBeVisible();
  const more = page.getByRole('button', { name: 'Show more' });
  // A list that comes anew meanwhile, in another order, takes the place of the one that was pressed on.
  await expect(async () => {
    if (await more.isVisible()) await more.click({ timeout: 1_000 });
    await expect(more).toBeHidden({ timeout: 1_000 });
  }).toPass({ timeout: 60_000 });
}

/** Leads to a deal's row by keyboard alone. */
export async function goTo(page: Page, name: string): Promise<void> {
  const row = rowOf(page, name);
  await page.keyboard.press('Home');
  for (let tries = 0; tries < 300; tries++) {
    if ((await row.getAttribute('aria-current')) === 'true') return;
    await page.keyboard.press('ArrowDown');
  }
  expect(await row.getAttribute('aria-current')).toBe('true');
}

/** Goes to where one writes of the deal at hand, by key, and writes. */
export async function writeNote(page: Page, text: string): Promise<void> {
  await page.keyboard.press('n');
  await expect(page.locator('#compose')).toBeFocused();
  await page.keyboard.type(text);
}

/** Adds a task to the deal that is open, as one writes it. */
export async function addTask(page: Page, line: string): Promise<void> {
  await page.getByLabel('New task').fill(line);
  await page.getByLabel('New task').press('Enter');
  await expect(page.getByLabel('New task')).toHaveValue('');
}

/** A deal that nothing holds, opened. */
export async function openClearDeal(page: Page, name: string): Promise<void> {
  const [customers, processes] = [await read(page, '/customers?limit=1'), await read(page, '/processes')];
  const process = processes.items.find((one: { name: string }) => one.name === 'New glasshouse build').id;
  const values = { customer: customers.items[0].id, source: 'Referral' };
  const { id } = await send(page, 'POST', '/deals', { body: { process, name, values } });
  await page.goto(`/deals/${id}`);
  await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
}
