import { type Browser, expect, type Page, test } from '@playwright/test';
import { addTask, goTo, openClearDeal, openDay, pane, rowOf, writeNote } from './dayPage.ts';
import { accessibilityProblems, beginDeal, openFirstPage, signIn } from './people.ts';

const [DAY_PORT, CLOCK_PORT] = (process.env.LADDER_DAY_PORTS ?? '4613,4614').split(',');
const MINUTE = 60_000;
const DAY = 24 * 60 * MINUTE;
const RETROFIT = '/deals?process=01900000-0000-7000-8000-000000040002';

test.use({ baseURL: `http://127.0.0.1:${DAY_PORT}` });
// Its company’s clock is moved: it is no other test’s, and moved once.
test.describe.configure({ retries: 0 });

/** Lets time pass for the whole company. */
const pass = async (page: Page, ms: number) => {
  await page.request.get(`http://127.0.0.1:${CLOCK_PORT}/?ms=${ms}`);
};

/** Someone else, in a browser of their own. */
async function other(browser: Browser, name: string): Promise<Page> {
  const context = await browser.newContext({ baseURL: `http://127.0.0.1:${DAY_PORT}` });
  const page = await context.newPage();
  await signIn(page, name);
  return page;
}

/** Presses a button by keyboard. */
async function tabTo(page: Page, name: string | RegExp): Promise<void> {
  await page.getByRole('button', { name }).first().focus();
  await page.keyboard.press('Enter');
}

test('a seller’s whole day by keyboard, with a manager and a colleague in browsers of their own', async ({
  page,
  browser,
}) => {
  await signIn(page, 'Priya Nandan');

  await test.step('six items of four kinds are done one by one: tasks, a next action, a step, and a call between', async () => {
    await openClearDeal(page, 'A full day');
    for (const line of ['Ring the grower today', 'Send the drawing today', 'Ask for the ridge heights today'])
      await addTask(page, line);
    await page.getByLabel('Next action', { exact: true }).fill('Ask about planning');
    await page.getByLabel('Next action', { exact: true }).press('Enter');
    await page.getByLabel('Next action due').fill('2026-11-24');
    await page.getByLabel('Next action due').press('Enter');
    await expect(page.locator('.journal')).toContainText('Next action due');
    await openDay(page);
    for (const what of ['Ring the grower', 'Send the drawing', 'Ask for the ridge heights']) {
      await goTo(page, 'A full day');
      await page.keyboard.press('d');
      await expect(page.locator('.day-undo')).toContainText(`${what}: done`);
    }
    await goTo(page, 'A full day');
    await writeNote(page, 'They like the drawing.');
    await pane(page).getByText('call', { exact: true }).click();
    await pane(page).getByRole('button', { name: 'Add', exact: true }).click();
    await expect(pane(page).locator('.journal-line').first()).toContainText('They like the drawing.');
    await goTo(page, 'A full day');
    await pane(page).getByLabel('What comes after it?').fill('Send the offer');
    await pane(page).getByLabel('By', { exact: true }).fill('2026-12-09');
    await page.keyboard.press('Enter');
    await expect(rowOf(page, 'A full day')).toHaveCount(0);
  });

  await test.step('a held move is asked to be waived, granted by the manager, and made', async () => {
    await beginDeal(page, 'Waived today');
    await tabTo(page, 'Move on');
    await expect(page.locator('.deal-title')).toContainText('Held');
    await tabTo(page, 'Ask for a waiver…');
    await page.getByRole('dialog').getByLabel('Why?').fill('They sign today');
    await page.getByRole('dialog').getByRole('button', { name: 'Ask', exact: true }).press('Enter');
    await expect(page.getByRole('dialog')).toBeHidden();
    const manager = await other(browser, 'Tomas Verhey');
    await openFirstPage(manager);
    await manager.getByRole('link', { name: /^Bell/ }).click();
    await expect(manager.locator('.bell li').first()).toContainText('Priya Nandan asks for a waiver in Waived today');
    await openDay(manager);
    await rowOf(manager, 'Waived today').click();
    await pane(manager).getByRole('button', { name: 'Grant' }).click();
    await expect(rowOf(manager, 'Waived today')).toHaveCount(0);
    await manager.context().close();
    await page.reload();
    await tabTo(page, 'Move on');
    await expect(page.locator('.climb .now')).toContainText('Survey');
  });

  await test.step('one is won with a final value', async () => {
    await page.goto(RETROFIT);
    await page.getByRole('button', { name: 'New deal' }).press('Enter');
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Name of the deal').fill('Won today');
    await dialog.getByLabel('Stage').selectOption('Approval');
    await dialog.getByRole('button', { name: 'Begin the deal' }).press('Enter');
    await expect(page.getByRole('heading', { level: 1, name: 'Won today' })).toBeVisible();
    await page.getByLabel('Approval in writing done').press('Space');
    await expect(page.locator('#move-why')).toHaveText('To Won');
    await tabTo(page, 'Move on');
    await dialog.getByLabel('Final value').fill('48,500');
    await dialog.getByLabel('Reason').selectOption('Price');
    await dialog.getByRole('button', { name: 'Close as won' }).press('Enter');
    await expect(page.locator('.notice')).toContainText('for £49k');
  });

  await test.step('one is lost, with a day to come back to it', async () => {
    await beginDeal(page, 'Lost today', RETROFIT);
    await tabTo(page, 'Close deal');
    await page.getByRole('button', { name: 'As lost…' }).press('Enter');
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Reason').selectOption('Price');
    await dialog.getByLabel('Come back to it on').fill('2027-01-11');
    await dialog.getByLabel('Cancel them').press('Space');
    await dialog.getByRole('button', { name: 'Close as lost' }).press('Enter');
    await expect(page.locator('.notice')).toContainText('Closed as lost');
    await expect(dialog).toBeHidden();
  });

  await test.step('a colleague who is mentioned sees it', async () => {
    await page.getByLabel('Write what happened').fill('Why were we **dearer**, @Oskar Lind?');
    await expect(page.getByRole('button', { name: 'Add', exact: true })).toBeEnabled();
    await page.getByRole('button', { name: 'Add', exact: true }).press('Enter');
    await expect(page.locator('.journal .mention')).toHaveText('@Oskar Lind');
    await expect(page.locator('.journal strong', { hasText: 'dearer' })).toBeVisible();
    const colleague = await other(browser, 'Oskar Lind');
    await openFirstPage(colleague);
    await expect(colleague.getByRole('link', { name: /^Bell 1/ })).toBeVisible();
    await colleague.getByRole('link', { name: /^Bell/ }).press('Enter');
    await expect(colleague.locator('.bell li')).toContainText('Priya Nandan mentioned you in Lost today');
    expect(await accessibilityProblems(colleague)).toEqual([]);
    await colleague.getByRole('button', { name: 'All read' }).press('Enter');
    await expect(colleague.locator('.bell li.read')).toHaveCount(1);
    await colleague.context().close();
  });

  await test.step('a message is confirmed, fails twice, and is sent', async () => {
    const administrator = await other(browser, 'Maren Holt');
    await administrator.goto('/settings?part=messages');
    await administrator.getByLabel(/^Let the stand-in for mail fail/).press('Space');
    await expect(administrator.getByLabel(/^Let the stand-in for mail fail/)).toBeChecked();
    await tabTo(page, 'Write a message…');
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('From a template').selectOption('Contract is on its way');
    await expect(dialog).toContainText('The deal does not tell: mail address of the contact');
    await dialog.getByRole('button', { name: 'Send it' }).press('Enter');
    await expect(dialog.getByLabel('Mail address')).toHaveClass(/is-invalid/);
    await dialog.getByLabel('To', { exact: true }).fill('Ada');
    await dialog.getByLabel('Mail address').fill('ada@growers.example');
    await dialog.getByLabel('Message').fill('It is on its way.');
    expect(await accessibilityProblems(page)).toEqual([]);
    await dialog.getByRole('button', { name: 'Send it' }).press('Enter');
    await expect(dialog).toBeHidden();
    const panel = page.locator('.messages');
    const isTried = (times: string) =>
      expect(async () => {
        await page.reload();
        await expect(panel).toContainText(`Tried ${times};`, { timeout: 2_000 });
      }).toPass({ timeout: 60_000 });
    await isTried('1 time');
    await pass(page, MINUTE);
    await isTried('2 times');
    await administrator.getByLabel(/^Let the stand-in for mail fail/).press('Space');
    await expect(administrator.getByLabel(/^Let the stand-in for mail fail/)).not.toBeChecked();
    await pass(page, 2 * MINUTE);
    await expect(async () => {
      await page.reload();
      await expect(panel).toContainText('sent', { timeout: 2_000 });
      await expect(page.locator('.journal')).toContainText('Our contract for Lost today', { timeout: 2_000 });
    }).toPass({ timeout: 60_000 });
    await administrator.reload();
    await expect(administrator.getByRole('cell', { name: 'ada@growers.example' })).toBeVisible();
    expect(await accessibilityProblems(administrator)).toEqual([]);
    await administrator.context().close();
  });

  await test.step('what was lost comes back on its day, and a new deal is begun from it', async () => {
    await pass(page, 48 * DAY);
    await signIn(page, 'Priya Nandan');
    await page.goto('/today');
    await expect(page.getByText('Monday 11 January')).toBeVisible();
    await goTo(page, 'Lost today');
    await page.keyboard.press('d');
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Name of the new deal').fill('Won after all');
    await dialog.getByRole('button', { name: 'Begin the deal' }).press('Enter');
    await expect(page.getByRole('heading', { level: 1, name: 'Won after all' })).toBeVisible();
    await expect(page.locator('.journal')).toContainText('Begun from Lost today');
    await openDay(page);
    await expect(rowOf(page, 'Lost today')).toHaveCount(0);
  });
});
