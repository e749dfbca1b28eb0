import { expect, type Page, test } from '@playwright/test';
import { accessibilityProblems, signIn } from './people.ts';

const panel = (page: Page) => page.getByRole('complementary');

async function newField(
  page: Page,
  name: string,
  type: string,
  fill: (dialog: ReturnType<Page['getByRole']>) => Promise<void>,
) {
  await page.getByRole('button', { name: 'New field' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name', { exact: true }).fill(name);
  await dialog.getByLabel('Type').selectOption(type);
  await fill(dialog);
  await dialog.getByRole('button', { name: 'Add the field' }).click();
  await expect(panel(page).getByRole('heading', { level: 2 })).toContainText(name);
}

test('a formula is written with its names completed, told where it is wrong, and shown on an example', async ({
  page,
}, { repeatEachIndex }) => {
  await signIn(page, 'Maren Holt');
  await page.goto('/processes/fields');
  await newField(page, `Price of a pane ${repeatEachIndex}`, 'Calculated number', async (dialog) => {
    const formula = dialog.getByLabel('Worked out as');
    await formula.pressSequentially('val');
    await expect(dialog.getByRole('option', { name: 'Value' })).toBeVisible();
    expect(await accessibilityProblems(page)).toEqual([]);
    await formula.press('Enter');
    await formula.pressSequentially('÷ gla');
    await formula.press('Tab');
    await expect(formula).toHaveValue('Value ÷ Glazed area ');
    await expect(dialog.locator('.formula-worked output')).toContainText(/= [\d,.]+/);
    await formula.press('End');
    await formula.pressSequentially('× Crop');
    await expect(dialog.getByRole('status')).toContainText('Crop is neither a number nor an amount.');
    await expect(dialog.locator('mark')).toHaveText('Crop');
    await formula.fill('Value ÷ Glazed area');
  });
  await expect(panel(page).getByLabel('Worked out as')).toHaveValue('Value ÷ Glazed area');
  await panel(page).getByLabel('Worked out as').fill('Value ÷ Glazed area ÷ 2');
  await panel(page).getByLabel('Worked out as').press('Escape');
  await panel(page).getByRole('button', { name: 'Save the formula' }).click();
  await expect(panel(page).getByRole('button', { name: 'Save the formula' })).toBeHidden();
  await page.reload();
  await expect(panel(page).getByLabel('Worked out as')).toHaveValue('Value ÷ Glazed area ÷ 2');
});

test('choices are put in order, renamed, withdrawn and put in place of each other, by keyboard', async ({ page }, {
  repeatEachIndex,
}) => {
  await signIn(page, 'Maren Holt');
  await page.goto('/processes/fields?of=customer');
  await newField(page, `Soil ${repeatEachIndex}`, 'Choice', async (dialog) => {
    await dialog.getByLabel('Choices, one a line').fill('Loam\nSand\nClay');
  });
  await expect(panel(page)).toContainText('Nowhere yet');
  await panel(page).getByLabel('Choice 2').fill('Sandy');
  await panel(page).getByRole('button', { name: 'Move up: Sandy' }).press('Enter');
  await panel(page).getByLabel('New choice').fill('Peat');
  await panel(page).getByLabel('New choice').press('Enter');
  await panel(page).getByRole('button', { name: 'Withdraw Clay' }).press('Enter');
  await panel(page).getByRole('button', { name: 'Save the choices' }).press('Enter');
  await expect(panel(page)).toContainText('3 offered');
  await expect(panel(page).getByRole('button', { name: 'Save the choices' })).toBeHidden();
  await page.reload();
  const names = panel(page).getByLabel(/^Choice \d/);
  await expect(names).toHaveCount(4);
  expect(await names.evaluateAll((boxes) => boxes.map((box) => (box as HTMLInputElement).value))).toEqual([
    'Sandy',
    'Loam',
    'Clay',
    'Peat',
  ]);
  await panel(page).getByRole('button', { name: 'Put another in place of Loam' }).press('Enter');
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Becomes').selectOption('Peat');
  expect(await accessibilityProblems(page)).toEqual([]);
  await dialog.getByRole('button', { name: 'Map it' }).click();
  await expect(dialog).toBeHidden();
  await expect(panel(page)).toContainText('2 offered');
  await expect(panel(page).getByRole('button', { name: 'Offer Loam' })).toBeVisible();
});

test('a field that is used keeps its type, and says where and how often; sellers see none of it', async ({ page }) => {
  await signIn(page, 'Maren Holt');
  await page.goto('/processes/fields');
  await page.getByLabel('Find a field').fill('glaz');
  await page.getByRole('button', { name: 'Glazed area' }).click();
  await expect(panel(page)).toContainText('It is used, so its type and unit stay');
  await expect(panel(page).getByLabel('Type')).toHaveCount(0);
  await expect(panel(page)).toContainText(/New glasshouse build\s*\d+ of \d+ open deals/);
  await panel(page).getByLabel('At least').fill('many');
  await panel(page).getByRole('button', { name: 'Save' }).click();
  await expect(panel(page)).toContainText('A number, or nothing.');
  await page.context().clearCookies();
  await signIn(page, 'Priya Nandan');
  await page.goto('/processes/fields');
  await expect(page.getByRole('heading', { name: 'Fields are for administrators' })).toBeVisible();
});
