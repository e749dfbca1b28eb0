import { expect, type Page, test } from '@playwright/test';
import { accessibilityProblems, addAdministrator, editAsDraft, openStage, signIn } from './people.ts';

// One after the other: with a second administrator, the first is no longer the last.
test.describe.configure({ mode: 'serial' });

test('the last administrator cannot give the role away', async ({ page }) => {
  await signIn(page, 'Maren Holt');
  await page.goto('/settings');
  await page.getByRole('button', { name: 'Maren Holt' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Role').selectOption('Viewer');
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog.getByText('This is the only administrator. Make another one first.')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('row', { name: /Maren Holt/ })).toContainText('Sales ops');
});

/** Settled when what is written next on this page is saved in the draft, as what stands there was read: without being put together. */
async function savedAsRead(page: Page): Promise<void> {
  const answer = await page.waitForResponse(
    (each) => each.request().method() === 'PUT' && each.url().endsWith('/draft'),
  );
  expect(answer.status()).toBe(200);
}

/** Writes what is true of the buyer in the stage that is chosen. */
async function writePurpose(page: Page, words: string): Promise<void> {
  await page.getByLabel('What is true of the buyer here').fill(words);
  await page.getByLabel('What is true of the buyer here').press('Enter');
}

test('two administrators at one draft: changes to different stages are put together, of the same it is asked', async ({
  page,
  browser,
}, { repeatEachIndex }) => {
  const called = `Second Admin ${repeatEachIndex + 1}`;
  await signIn(page, 'Maren Holt');
  await addAdministrator(page, called);
  await page.goto('/processes/01900000-0000-7000-8000-000000040002');
  await editAsDraft(page);
  const headHeight = () => page.locator('.page-head').evaluate(({ clientHeight }) => clientHeight);
  const alone = await headHeight();
  const other = await browser.newPage();
  await signIn(other, called);
  await other.goto('/processes/01900000-0000-7000-8000-000000040002');
  await expect(other.getByText('Maren Holt has it open too')).toBeVisible();

  await test.step('different stages', async () => {
    await openStage(other, 1);
    await writePurpose(other, 'Theirs, of the second');
    await expect(other.getByText(/saved \d\d:\d\d/)).toBeVisible();
    await openStage(page, 0);
    await writePurpose(page, 'Mine, of the first');
    await expect(page.getByText(`${called} has it open too`)).toBeVisible();
    // What is about to be pressed stays in its place.
    expect(await headHeight()).toBe(alone);
    await openStage(page, 1);
    await expect(page.getByLabel('What is true of the buyer here')).toHaveValue('Theirs, of the second');
    // The other reads what this saved, not what stood before it.
    const undone = savedAsRead(page);
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByLabel('What is true of the buyer here')).toHaveValue('Theirs, of the second');
    await undone;
  });

  await test.step('the same stage: both are shown, and both are kept', async () => {
    // Mine is written before I hear that theirs was saved.
    await page.route('**/draft/presence', (route) => route.abort());
    await other.reload();
    await openStage(other, 2);
    // What stood there before is told as saved until the item is there.
    const saved = savedAsRead(other);
    await other.getByLabel('New checklist item').fill('As they say');
    await other.getByRole('button', { name: 'Add item' }).click();
    await saved;
    await openStage(page, 2);
    await page.getByLabel('New checklist item').fill('As I say');
    await page.getByRole('button', { name: 'Add item' }).click();
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('As they say');
    await expect(dialog).toContainText('As I say');
    expect(await accessibilityProblems(page)).toEqual([]);
    await dialog.getByLabel('both').check();
    await dialog.getByRole('button', { name: 'Go on' }).click();
    await expect(page.locator('.sheet .rung.on')).toContainText('As they say');
    await expect(page.locator('.sheet .rung.on')).toContainText('As I say');
    await expect(page.getByText(/saved \d\d:\d\d/)).toBeVisible();
  });
  page.on('dialog', (dialog) => dialog.accept());
  await page.getByRole('button', { name: 'Throw away' }).click();
  await expect(page.getByText('Version 1, live')).toBeVisible();
  await other.close();
  await page.goto('/settings');
  await page.getByRole('button', { name: called, exact: true }).click();
  await page.getByRole('dialog').getByLabel('Role').selectOption('Viewer');
  await page.getByRole('dialog').getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('row', { name: called })).toContainText('Viewer');
});
