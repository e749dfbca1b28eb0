import { expect, test } from '@playwright/test';
import { addStage, openFirstPage, signIn } from './people.ts';

test('a process is designed from nothing: stages, a criterion as a sentence, a checklist, reordering by keyboard, undo, publish', async ({
  page,
}, { repeatEachIndex }) => {
  const own = `Care plan renewal ${repeatEachIndex + 1}`;
  await signIn(page, 'Maren Holt');
  await openFirstPage(page);
  await page.getByRole('link', { name: 'Processes' }).click();
  await page.getByRole('button', { name: 'New process' }).click();
  await page.getByLabel('Name', { exact: true }).fill(own);
  await page.getByLabel('First stage').fill('Coming due');
  await page.getByRole('button', { name: 'Begin the draft' }).click();
  await expect(page.locator('.page-head').getByText('Draft 1')).toBeVisible();

  await test.step('a stage is added and renamed; a name twice is refused where it was written', async () => {
    await addStage(page);
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

  await test.step('several items are pasted at once, put in order and copied; requirements too', async () => {
    await page.evaluate(() => {
      const box = document.querySelector('[aria-label="New checklist item"]');
      const clipboardData = new DataTransfer();
      clipboardData.setData('text', '- Sent by post\n- Received\n\n3. Filed');
      box?.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
    });
    const rung = page.locator('.sheet .rung.on');
    await expect(rung.locator('.sheet-items').first()).toHaveText(/Sent by post.*Received.*Filed/);
    await page.getByRole('button', { name: 'Move up: Filed' }).click();
    await expect(rung.locator('.sheet-items').first()).toHaveText(/Filed.*Received/);
    await page.getByRole('button', { name: 'Copy to: Filed' }).click();
    await page.getByRole('button', { name: 'Coming due', exact: true }).click();
    await page.getByRole('button', { name: /^Copy to: Glazed area/ }).click();
    await page.getByRole('button', { name: 'Coming due, before leaving' }).click();
    const first = page.locator('.sheet .rung').first();
    await expect(first).toContainText('Filed');
    await expect(first).toContainText('Glazed area is at least 200');
    await page.getByRole('button', { name: 'Copy to: Terms read by two people' }).click();
    await page.getByRole('button', { name: 'Another process…' }).click();
    await expect(page.getByLabel('Into which process').getByRole('option')).not.toHaveCount(0);
    await expect(page.getByLabel('To which place').getByRole('option')).not.toHaveCount(0);
    await expect(page.getByLabel('Into which process').getByRole('option', { name: own })).toHaveCount(0);
    await page.getByRole('dialog').getByRole('button', { name: 'Cancel' }).click();
    for (let undone = 0; undone < 2; undone++) await page.getByRole('button', { name: 'Undo' }).click();
    await expect(first).not.toContainText('Filed');
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
