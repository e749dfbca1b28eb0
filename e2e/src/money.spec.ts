import { expect, type Page, test } from '@playwright/test';
import { read, send } from './api.ts';
import { accessibilityProblems, signIn } from './people.ts';

/** A process whose second stage asks for a value in another currency; gives its id. */
async function exportProcess(page: Page, name: string, currency: string): Promise<string> {
  const { id } = await send(page, 'POST', '/processes', {
    body: { name, kind: 'deal', currency: 'GBP', firstStage: 'Asked' },
  });
  const { document, revision } = await read(page, `/processes/${id}/draft`);
  const criterion = {
    kind: 'at_least',
    left: { of: 'field', field: 'value' },
    right: { of: 'value', value: { minor: 100_000, currency } },
  };
  const enter = [{ id: 'worth', level: 'hold', binds: 'at_move', kind: 'criterion', criterion }];
  const priced = { ...document.stages[0], id: 'priced', name: 'Priced', enter };
  const asking = { ...document, stages: [...document.stages, priced] };
  const saved = await send<{ revision: number }>(page, 'PUT', `/processes/${id}/draft`, {
    body: { document: asking },
    revision,
  });
  const how = { deals: 'move_over', graceDays: 0, transfers: {} };
  await send(page, 'POST', `/processes/${id}/draft/publish`, { body: how, revision: saved.revision });
  return String(id);
}

test('a deal is begun in another currency; the rate that a gate lacks is named, and set where it is missing', async ({
  page,
}, { repeatEachIndex }) => {
  const [asked, own] = [['ISK', 'THB', 'MYR'][repeatEachIndex] ?? 'PHP', 'CHF'];
  await signIn(page, 'Maren Holt');
  const process = await exportProcess(page, `Exports ${repeatEachIndex}`, asked);
  await page.goto(`/deals?process=${process}`);
  await page.getByRole('button', { name: 'New deal' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name of the deal').fill('Range abroad');
  await dialog.getByLabel('Value').fill('50000');
  await dialog.getByLabel('Currency').fill('XQX');
  await dialog.getByRole('button', { name: 'Begin the deal' }).click();
  await expect(dialog.getByText('There is no currency XQX.')).toBeVisible();
  await dialog.getByLabel('Currency').fill(own);
  await dialog.getByRole('button', { name: 'Begin the deal' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Range abroad' })).toBeVisible();
  await expect(page.locator('.deal-facts')).toContainText('50k CHF');
  await expect(page.locator('.gate')).toContainText(`no exchange rate from ${own} to ${asked}`);
  await page.getByRole('button', { name: `Set the rate from ${own} to ${asked}…` }).click();
  expect(await accessibilityProblems(page)).toEqual([]);
  await dialog.getByLabel('is worth').fill('2');
  await dialog.getByRole('button', { name: 'Set the rate', exact: true }).click();
  await expect(page.locator('.gate')).toContainText('1 of 1 met');
});

test('who may not set a rate is told who does', async ({ page }, { repeatEachIndex }) => {
  await signIn(page, 'Maren Holt');
  const process = await exportProcess(page, `Exports told ${repeatEachIndex}`, 'UAH');
  await signIn(page, 'Priya Nandan');
  const deal = await send(page, 'POST', '/deals', {
    body: {
      process,
      name: 'Range told',
      values: { value: { minor: 100, currency: 'GBP' } },
    },
  });
  await page.goto(`/deals/${deal.id}`);
  await expect(page.getByText('An administrator sets the rate from GBP to UAH')).toBeVisible();
});

test('a closed deal keeps its facts and takes another follow-up day', async ({ page }) => {
  await signIn(page, 'Priya Nandan');
  await page.goto('/deals?view=table&status=lost');
  await page.locator('table a').first().click();
  await page.getByRole('button', { name: /Set a day to come back to it|Change that day/ }).click();
  await page
    .getByRole('dialog')
    .getByLabel(/On the day/)
    .fill('2031-03-05');
  await page.getByRole('dialog').getByRole('button', { name: 'Save the day' }).click();
  await expect(page.getByText('Come back to it on 5 Mar 2031.')).toBeVisible();
  await expect(page.locator('.journal')).toContainText('→ 5 Mar 2031');
});
