import { expect, type Page, test } from '@playwright/test';
import { accessibilityProblems, addStage, openStage, signIn } from './people.ts';

const check = (page: Page) => page.getByRole('region', { name: 'Design check' });

/** Asks something of the field before a deal enters the stage that is chosen. */
async function ask(page: Page, operator: string, area: string): Promise<void> {
  await page.getByRole('button', { name: 'Add requirement: To enter this stage' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByTestId('fields').selectOption('Glazed area');
  await dialog.getByTestId('operators').selectOption(operator);
  await dialog.getByLabel('Glazed area').fill(area);
  await dialog.getByRole('button', { name: 'Add it' }).click();
  await expect(dialog).toBeHidden();
}

test('a design is checked as it is made: a contradiction keeps it from being published, and says why and where', async ({
  page,
}, { repeatEachIndex }) => {
  const name = `Checked sale ${repeatEachIndex + 1}`;
  await signIn(page, 'Maren Holt');
  await page.goto('/processes');
  await page.getByRole('button', { name: 'New process' }).click();
  await page.getByLabel('Name', { exact: true }).fill(name);
  await page.getByLabel('First stage').fill('Brief');
  await page.getByRole('button', { name: 'Begin the draft' }).click();
  await addStage(page);
  await page.getByLabel('Chance of winning from here').fill('60');
  await page.getByLabel('Chance of winning from here').press('Enter');

  await test.step('what no screen shows is listed by the remedy, and taken back', async () => {
    await ask(page, 'is at least', '500');
    await expect(check(page)).toContainText('needs Glazed area, which no screen of the process shows');
    await check(page)
      .getByRole('button', { name: /^List Glazed area among the fields/ })
      .click();
    await expect(check(page)).toContainText('0 problems');
    await expect(page.getByRole('heading', { name: 'Design check' })).toBeFocused();
    await check(page).getByRole('button', { name: 'Undo it' }).click();
    await expect(check(page)).toContainText('1 problem');
    await check(page)
      .getByRole('button', { name: /^List Glazed area among the fields/ })
      .click();
    await expect(check(page)).toContainText('Nothing stops publishing');
  });

  await test.step('two that cannot both be met: which, with values, marked in place; pressing goes there', async () => {
    await ask(page, 'is at most', '400');
    await expect(check(page)).toContainText('Cannot be published like this');
    await expect(check(page).getByRole('listitem')).toContainText(
      /“Glazed area is at most 400.m²” cannot be met together with “Glazed area is at least 500.m²”.*With Glazed area 500.m²/,
    );
    const line = page.locator('.sheet .req', { hasText: 'is at most' });
    await expect(line.getByRole('img', { name: /cannot be met together/ })).toBeVisible();
    await openStage(page, 0);
    await check(page)
      .getByRole('button', { name: /^Show where/ })
      .press('Enter');
    await expect(page.locator('.design-panel [data-part]:focus')).toContainText('Glazed area is at most 400');
    expect(await accessibilityProblems(page)).toEqual([]);
    await page.getByRole('button', { name: 'Publish…' }).click();
    await expect(page.getByRole('dialog')).toContainText('cannot be met together');
    await page.getByRole('button', { name: 'Back to the draft' }).click();
  });

  await test.step('the list of processes tells how many', async () => {
    await expect(page.getByText(/saved \d\d:\d\d/)).toBeVisible();
    await page.goto('/processes');
    await expect(page.getByRole('row', { name }).getByText('1 problem')).toBeVisible();
    await page.getByRole('link', { name }).click();
  });

  await test.step('a suggestion is dismissed with a reason that is kept, and told again', async () => {
    await check(page).getByRole('button', { name: '1 suggestion' }).click();
    await check(page)
      .getByRole('button', { name: /^Dismiss: Brief asks for nothing/ })
      .click();
    await page.getByLabel('Why it is dismissed').fill('It is asked by telephone');
    await page.getByLabel('Why it is dismissed').press('Enter');
    await expect(check(page).getByRole('button', { name: '1 suggestion' })).toBeHidden();
    await page.reload();
    await check(page).getByRole('button', { name: '1 dismissed' }).click();
    await expect(check(page)).toContainText('Dismissed by Maren Holt: It is asked by telephone');
    await check(page)
      .getByRole('button', { name: /^Tell again/ })
      .click();
    await expect(check(page).getByRole('button', { name: '1 suggestion' })).toBeVisible();
  });
});

test('a seller reads a design without its check', async ({ page }) => {
  await signIn(page, 'Priya Nandan');
  await page.goto('/processes/01900000-0000-7000-8000-000000040001');
  await expect(page.getByRole('heading', { level: 1, name: 'New glasshouse build' })).toBeVisible();
  await expect(check(page)).toBeHidden();
});
