import { expect, type Page, test } from '@playwright/test';
import { addStage, beginDeal, editAsDraft, signIn } from './people.ts';

/** A process of the test's own, published with one stage, its panel open. */
async function publishedProcess(page: Page, name: string): Promise<void> {
  await page.goto('/processes');
  await page.getByRole('button', { name: 'New process' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name', { exact: true }).fill(name);
  await dialog.getByLabel('First stage').fill('Begun');
  await dialog.getByRole('button', { name: 'Begin the draft' }).click();
  await expect(page.locator('.page-head').getByText('Draft 1')).toBeVisible();
  await publish(page);
  await expect(page.getByText('Version 1, live')).toBeVisible();
}

/** The lanes of the process whose design is open. */
const lanesOf = (page: Page): string => `/deals?process=${new URL(page.url()).pathname.split('/').pop()}`;

async function publish(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Publish…' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Publish', exact: true }).click();
}

test('house rules and reasons count at once, without publishing', async ({ page }, { repeatEachIndex }) => {
  const name = `Ruled at once ${repeatEachIndex}`;
  await signIn(page, 'Maren Holt');
  await publishedProcess(page, name);
  const lanes = lanesOf(page);
  await page.getByRole('button', { name: 'Rules, reasons and fields' }).click();
  await page.getByLabel('No next action').selectOption('hold');
  await page.getByLabel('New reason for won').fill('They liked the roof');
  await page.getByLabel('New reason for won').press('Enter');
  await expect(page.getByText('They liked the roof')).toBeVisible();
  await beginDeal(page, 'Deal with no next action', lanes);
  await expect(page.locator('.deal-title')).toContainText('Held');
  await page.getByRole('button', { name: /^All \d+ fields/ }).click();
  await page.getByLabel('Next action', { exact: true }).fill('Ring them');
  await page.getByLabel('Next action', { exact: true }).press('Enter');
  await expect(page.locator('.deal-title')).toContainText('Clear');
  await page.getByRole('button', { name: 'Move on' }).click();
  await page.getByRole('dialog').getByLabel('Reason').selectOption('They liked the roof');
  await page.getByRole('dialog').getByRole('button', { name: 'Close as won' }).click();
  await expect(page.getByText(/Closed as won.*They liked the roof/)).toBeVisible();
});

test('a calculated number is written as arithmetic, shown on a deal and worked out as its parts are filled', async ({
  page,
}, { repeatEachIndex }) => {
  const [process, field] = [`Calculated ${repeatEachIndex}`, `Value a year ${repeatEachIndex}`];
  await signIn(page, 'Maren Holt');
  await publishedProcess(page, process);
  await editAsDraft(page);
  await page.getByRole('button', { name: 'Rules, reasons and fields' }).click();
  await page.getByRole('button', { name: 'New field' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name', { exact: true }).fill(field);
  await dialog.getByLabel('Type').selectOption('Calculated number');
  await dialog.getByRole('button', { name: 'Add the field' }).click();
  await expect(dialog.getByRole('alert')).toContainText('Write what it is worked out from');
  await dialog.getByLabel('Worked out as').fill('Value / 4');
  await dialog.getByRole('button', { name: 'Add the field' }).click();
  await page.getByLabel('Add a field to Deal').selectOption(field);
  await expect(page.getByText(/saved \d\d:\d\d/)).toBeVisible();
  await publish(page);
  await expect(page.getByText('Version 2, live')).toBeVisible();
  await beginDeal(page, 'Calculated deal', lanesOf(page));
  await page.getByRole('button', { name: /^All \d+ fields/ }).click();
  await page.getByLabel('Value', { exact: true }).fill('1,000');
  await page.getByLabel('Value', { exact: true }).press('Enter');
  await expect(page.getByLabel(field)).toHaveText('250');
});

test('a field kept with the customer holds a deal, and is filled where the deal is held', async ({ page }, {
  repeatEachIndex,
}) => {
  await signIn(page, 'Maren Holt');
  await publishedProcess(page, `Credit first ${repeatEachIndex}`);
  await editAsDraft(page);
  await page.getByRole('button', { name: 'Add requirement: To enter this stage' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('A field is filled').check();
  await dialog.getByLabel('Field', { exact: true }).selectOption('Credit checked (customer)');
  await dialog.getByRole('button', { name: 'Add it' }).click();
  await publish(page);
  await expect(page.getByText('Version 2, live')).toBeVisible();
  await beginDeal(page, 'On credit', lanesOf(page));
  await expect(page.locator('.deal-title')).toContainText('Held');
  const owed = page.getByRole('region', { name: /What it owes/ });
  await expect(owed).toContainText('Credit checked is kept with the customer; choose the customer first');
  await owed.getByLabel('Customer', { exact: true }).fill(`Fern and daughters ${repeatEachIndex}`);
  await owed.getByRole('button', { name: 'Add', exact: true }).click();
  await owed.getByLabel(/^Credit checked of Fern/).selectOption('Yes');
  await expect(page.locator('.deal-title')).toContainText('Clear');
  await page.getByRole('button', { name: /^All \d+ fields/ }).click();
  await expect(page.getByRole('group', { name: 'The customer' })).toContainText('Credit checked of Fern');
});

test('a process that is closed to new deals offers none', async ({ page }, { repeatEachIndex }) => {
  await signIn(page, 'Maren Holt');
  await publishedProcess(page, `Closed to new ${repeatEachIndex}`);
  const [process, deals] = [page.url(), lanesOf(page)];
  await page.goto(deals);
  await expect(page.getByRole('button', { name: 'New deal' })).toBeVisible();
  await page.goto(process);
  await page.getByRole('button', { name: 'Rules, reasons and fields' }).click();
  await page.getByLabel('This process takes new deals').click();
  await expect(page.getByLabel('This process takes new deals')).not.toBeChecked();
  await page.goto(deals);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Closed to new');
  await expect(page.getByRole('button', { name: 'New deal' })).toHaveCount(0);
});

test('a stage with deals is removed, and they go where they are sent', async ({ page }, { repeatEachIndex }) => {
  await signIn(page, 'Maren Holt');
  await publishedProcess(page, `Removed stage ${repeatEachIndex}`);
  const [process, deals] = [page.url(), lanesOf(page)];
  await beginDeal(page, 'Sent on', deals);
  await page.goto(process);
  await editAsDraft(page);
  await addStage(page);
  await page.getByLabel('Name', { exact: true }).fill('Kept');
  await page.getByLabel('Name', { exact: true }).press('Enter');
  await page.getByRole('button', { name: /^Begun/ }).click();
  await page.getByRole('button', { name: 'Remove stage' }).click();
  await expect(page.getByText(/saved \d\d:\d\d/)).toBeVisible();
  await page.getByRole('button', { name: 'Publish…' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('Begun removed');
  await dialog.getByLabel(/1 deal in “Begun”, which is removed, go/).selectOption('Kept');
  await dialog.getByRole('button', { name: 'Publish', exact: true }).click();
  await expect(page.getByText('Version 2, live')).toBeVisible();
  await page.goto(deals);
  await expect(page.getByRole('region', { name: 'Kept' }).getByRole('link', { name: /Sent on/ })).toBeVisible();
});

test('a publish that takes long tells how far it is, also on a page that is opened meanwhile, and is stopped', async ({
  page,
}, { repeatEachIndex }) => {
  await signIn(page, 'Maren Holt');
  await publishedProcess(page, `Published slowly ${repeatEachIndex}`);
  await editAsDraft(page);
  const work = {
    id: '01900000-0000-7000-8000-0000000000aa',
    kind: 'publish',
    subject: new URL(page.url()).pathname.split('/').pop(),
    state: 'running',
    by: 'Maren Holt',
    startedAt: new Date().toISOString(),
    endedAt: null as string | null,
    done: 12_300,
    total: 24_000,
    cancel: 'may',
    deals: null,
    problem: null,
  };
  await page.route('**/draft/publish', (route) => route.fulfill({ status: 202, json: work }));
  await page.route('**/api/v1/work?*', (route) => route.fulfill({ json: { items: [work], next: null } }));
  await page.route('**/cancel', (route) => {
    Object.assign(work, { state: 'cancelled', cancel: 'over', endedAt: new Date().toISOString() });
    return route.fulfill({ status: 202, json: work });
  });
  await publish(page);
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('status')).toContainText('Judging deals by the new version: 12,300 of 24,000 deals');
  await expect(dialog.getByRole('button', { name: 'Publishing…' })).toBeDisabled();
  await page.reload();
  await expect(page.getByText('Judging deals by the new version: 12,300 of 24,000 deals')).toBeVisible();
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByText('Judging deals by the new version')).toBeHidden();
  await expect(page.locator('.page-head').getByText('Draft 2')).toBeVisible();
});
