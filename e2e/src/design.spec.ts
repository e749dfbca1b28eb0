import { expect, type Page, test } from '@playwright/test';
import { accessibilityProblems, addAdministrator, editAsDraft, signIn } from './people.ts';

test('a process is designed from nothing: stages, a criterion as a sentence, a checklist, reordering by keyboard, undo, publish', async ({
  page,
}, { repeatEachIndex }) => {
  await signIn(page, 'Maren Holt');
  await page.getByRole('link', { name: 'Processes' }).click();
  await page.getByRole('button', { name: 'New process' }).click();
  await page.getByLabel('Name', { exact: true }).fill(`Care plan renewal ${repeatEachIndex + 1}`);
  await page.getByLabel('First stage').fill('Coming due');
  await page.getByRole('button', { name: 'Begin the draft' }).click();
  await expect(page.getByText('Draft 1')).toBeVisible();

  await test.step('a stage is added and renamed; a name twice is refused where it was written', async () => {
    await page.getByRole('button', { name: 'Add stage' }).click();
    const name = page.getByLabel('Name', { exact: true });
    await name.fill('Coming due');
    await name.press('Enter');
    await expect(page.getByRole('alert')).toContainText('already a stage called “Coming due”');
    await name.fill('Terms sent');
    await name.press('Enter');
    await expect(page.locator('.sheet .rung').nth(1)).toContainText('Terms sent');
    await page.getByLabel('Chance of winning from here').fill('140');
    await page.getByLabel('Chance of winning from here').press('Enter');
    await expect(page.getByText('A whole number from 0 to 100.')).toBeVisible();
    await page.getByLabel('Chance of winning from here').fill('60');
    await page.getByLabel('Chance of winning from here').press('Enter');
    await expect(page.locator('.sheet .rung').nth(1)).toContainText('60%');
  });

  await test.step('a criterion is built and read as a sentence', async () => {
    await page.getByRole('button', { name: 'Add requirement: To enter this stage' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByTestId('fields').selectOption('Glazed area');
    await dialog.getByTestId('operators').selectOption('is at least');
    await expect(dialog.getByText('Glazed area is at least ….')).toBeVisible();
    await dialog.getByLabel('flag the deal').check();
    await dialog.getByLabel('Glazed area').pressSequentially('200.50');
    await expect(dialog.getByText('Glazed area is at least 200.5 m².')).toBeVisible();
    await dialog.getByLabel('Glazed area').press('Backspace');
    await dialog.getByLabel('Glazed area').press('Backspace');
    await dialog.getByLabel('Glazed area').press('Backspace');
    await expect(dialog.getByText('Glazed area is at least 200 m².')).toBeVisible();
    await dialog.getByRole('button', { name: 'Add it' }).click();
    await expect(page.locator('.sheet .rung.on .edge-flag')).toContainText('Glazed area is at least 200 m²');
  });

  await test.step('the checklist', async () => {
    await page.getByLabel('New checklist item').fill('Terms read by two people');
    await page.getByRole('button', { name: 'Add item' }).click();
    await page.getByLabel('How much Terms read by two people matters').selectOption('must, flags');
    await expect(page.locator('.sheet .rung.on')).toContainText('Terms read by two people flags');
  });

  await test.step('stages are reordered by keyboard, and undone', async () => {
    const names = page.locator('.sheet .stage-name');
    await page.getByRole('button', { name: 'Move Terms sent' }).focus();
    await page.keyboard.press('ArrowUp');
    await expect(names.first()).toHaveText('Terms sent');
    await expect(page.getByRole('button', { name: 'Move Terms sent' })).toBeFocused();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(names.first()).toHaveText('Coming due');
  });

  await test.step('the draft saved itself, and is published', async () => {
    await expect(page.getByText(/saved \d\d:\d\d/)).toBeVisible();
    await page.reload();
    await expect(page.locator('.sheet .rung').nth(1)).toContainText('Glazed area is at least 200 m²');
    await page.getByRole('button', { name: 'Publish…' }).click();
    await expect(page.getByRole('dialog')).toContainText('which no screen of the process shows');
    await page.getByRole('button', { name: 'Back to the draft' }).click();
    await page.getByRole('button', { name: /^List Glazed area among the fields/ }).click();
    await page.getByRole('button', { name: 'Publish…' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Publish', exact: true }).click();
    await expect(page.getByText('Version 1, live')).toBeVisible();
  });
});

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
  const other = await browser.newPage();
  await signIn(other, called);
  await other.goto('/processes/01900000-0000-7000-8000-000000040002');
  await expect(other.getByText('Maren Holt has it open too')).toBeVisible();

  await test.step('different stages', async () => {
    await other.locator('.sheet-select').nth(1).click();
    await writePurpose(other, 'Theirs, of the second');
    await expect(other.getByText(/saved \d\d:\d\d/)).toBeVisible();
    await page.locator('.sheet-select').first().click();
    await writePurpose(page, 'Mine, of the first');
    await expect(page.getByText(`${called} has it open too`)).toBeVisible({ timeout: 15_000 });
    await page.locator('.sheet-select').nth(1).click();
    await expect(page.getByLabel('What is true of the buyer here')).toHaveValue('Theirs, of the second');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByLabel('What is true of the buyer here')).toHaveValue('Theirs, of the second');
  });

  await test.step('the same stage: both are shown, and both are kept', async () => {
    // Mine is written before I hear that theirs was saved.
    await page.route('**/draft/presence', (route) => route.abort());
    await other.reload();
    await other.locator('.sheet-select').nth(2).click();
    await other.getByLabel('New checklist item').fill('As they say');
    await other.getByRole('button', { name: 'Add item' }).click();
    await expect(other.getByText(/saved \d\d:\d\d/)).toBeVisible();
    await page.locator('.sheet-select').nth(2).click();
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
});
