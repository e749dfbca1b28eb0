import { readFile } from 'node:fs/promises';
import { type Browser, expect, type Page, test } from '@playwright/test';
import { read, send } from './api.ts';
import { accessibilityProblems, addStage, beginDeal, editAsDraft, openStage, signIn } from './people.ts';

/* A process from nothing to a second version, as an administrator who is new to it would make it. */

const check = (page: Page) => page.getByRole('region', { name: 'Design check' });
const dialogOf = (page: Page) => page.getByRole('dialog');
const STAGES = ['Coming due', 'Use reviewed', 'Terms sent', 'Agreed'] as const;

async function setBox(page: Page, label: string, value: string): Promise<void> {
  await page.getByLabel(label, { exact: true }).fill(value);
  await page.getByLabel(label, { exact: true }).press('Enter');
}

/** Asks for a field's value before a deal enters the stage that is chosen. */
async function ask(page: Page, operator: string, visits: string): Promise<void> {
  await page.getByRole('button', { name: 'Add requirement: To enter this stage' }).click();
  await dialogOf(page).getByTestId('fields').selectOption('Visits this year');
  await dialogOf(page).getByTestId('operators').selectOption(operator);
  await dialogOf(page).getByLabel('Visits this year').fill(visits);
  await dialogOf(page)
    .getByLabel(/stay so/)
    .check();
  await dialogOf(page).getByRole('button', { name: 'Add it' }).click();
  await expect(dialogOf(page)).toBeHidden();
}

async function publish(page: Page, version: number): Promise<void> {
  await expect(page.getByText(/saved \d\d:\d\d/)).toBeVisible();
  await page.getByRole('button', { name: 'Publish…' }).click();
  await dialogOf(page).getByRole('button', { name: 'Publish', exact: true }).click();
  await expect(page.getByText(`Version ${version}, live`)).toBeVisible();
}

/** A second browser, of someone else. */
async function otherBrowser(browser: Browser, page: Page, name: string): Promise<Page> {
  const other = await (await browser.newContext({ baseURL: new URL(page.url()).origin })).newPage();
  await signIn(other, name);
  return other;
}

/** Moves the deal that is open, as its page would. */
async function moveTo(page: Page, stage: string): Promise<void> {
  const { pathname } = new URL(page.url());
  const { setting, revision } = await read(page, pathname);
  const { id } = setting.told.document.stages.find((one: { name: string }) => one.name === stage);
  await send(page, 'POST', `${pathname}/moves`, { body: { target: { to: 'stage', stage: id }, revision } });
}

test('a care plan is designed, checked, published, changed while deals move, compared, printed, taken to a file and back', async ({
  page,
  browser,
}, { repeatEachIndex }) => {
  const name = `Care plans ${repeatEachIndex + 1}`;
  await signIn(page, 'Maren Holt');

  await test.step('from blank: four stages with gates, a checklist, steps and reasons', async () => {
    await page.goto('/processes');
    await page.getByRole('button', { name: 'New process' }).click();
    await page.getByLabel('Name', { exact: true }).fill(name);
    await page.getByLabel('First stage').fill(STAGES[0]);
    await page.getByRole('button', { name: 'Begin the draft' }).click();
    await expect(page.locator('.page-head').getByText('Draft 1')).toBeVisible();
    for (const [place, stage] of STAGES.entries()) {
      if (place > 0) await addStage(page);
      if (place > 0) await setBox(page, 'Name', stage);
      await setBox(page, 'Chance of winning from here', String(60 + place * 10));
    }
    await openStage(page, 1);
    await ask(page, 'is at least', '4');
    await page.getByLabel('New checklist item').fill('Visits listed');
    await page.getByRole('button', { name: 'Add item' }).click();
    await page.getByLabel('New guided step').fill('Ring them');
    await page.getByRole('button', { name: 'Add step' }).click();
    await dialogOf(page).getByLabel('Name of result 1').fill('Spoken to');
    await dialogOf(page).getByRole('button', { name: 'Keep it' }).click();
    await page.getByRole('button', { name: 'Rules, reasons and fields' }).click();
    await page.getByLabel('Add a field to Deal').selectOption('Visits this year');
    await page.getByLabel('New reason for lost').fill('Does the work themselves');
    await page.getByLabel('New reason for lost').press('Enter');
    await expect(page.getByText('Does the work themselves')).toBeVisible();
    await expect(check(page)).toContainText('0 problems');
  });

  await test.step('broken in many ways, each is caught with its witness', async () => {
    await openStage(page, 2);
    await ask(page, 'is at most', '2');
    await expect(check(page)).toContainText(/cannot be met together with.*Visits this year is at least 4/);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(check(page)).toContainText('0 problems');
    await ask(page, 'is at least', '3');
    await expect(check(page)).toContainText(/“Visits this year is at least 3”/);
    await page.getByRole('button', { name: 'Undo' }).click();
    await setBox(page, 'Chance of winning from here', '30');
    await expect(check(page)).toContainText(
      'The chance of winning falls from 70% in Use reviewed to 30% in Terms sent',
    );
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.getByRole('button', { name: 'Rules, reasons and fields' }).click();
    await page.getByRole('button', { name: 'Leave out Visits this year' }).click();
    await expect(check(page)).toContainText('needs Visits this year, which no screen of the process shows');
    await page.getByRole('button', { name: 'Undo' }).click();
    await openStage(page, 1);
    await page.getByRole('button', { name: 'Edit Ring them' }).click();
    await dialogOf(page).getByLabel('Where Spoken to leads').selectOption('this step again');
    await dialogOf(page).getByRole('button', { name: 'Keep it' }).click();
    await expect(check(page)).toContainText('From “Ring them” the steps go round without a way out');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(check(page)).toContainText('0 problems');
    expect(await accessibilityProblems(page)).toEqual([]);
  });

  await publish(page, 1);
  const process = new URL(page.url()).pathname;
  const lanes = `/deals?process=${process.split('/').pop()}`;
  const priya = await otherBrowser(browser, page, 'Priya Nandan');
  for (const deal of ['Plan one', 'Plan two']) await beginDeal(priya, deal, lanes);

  await test.step('a version with a stage removed is published while a second browser moves a deal', async () => {
    await moveTo(priya, 'Terms sent');
    await priya.reload();
    await expect(priya.locator('.crumb')).toContainText('Terms sent');
    await editAsDraft(page);
    await openStage(page, 2);
    await page.getByRole('button', { name: 'Remove stage' }).click();
    await expect(page.getByText(/saved \d\d:\d\d/)).toBeVisible();
    await page.getByRole('button', { name: 'Publish…' }).click();
    await expect(dialogOf(page)).toContainText('Terms sent removed');
    await dialogOf(page)
      .getByLabel(/1 deal in “Terms sent”, which is removed, go/)
      .selectOption('Agreed');
    await dialogOf(page).getByLabel('A note for those who have deals in it').fill('Terms go with the review now');
    const published = dialogOf(page).getByRole('button', { name: 'Publish', exact: true }).click();
    await priya.goto(lanes);
    await priya.getByRole('link', { name: /^Plan one/ }).click();
    await priya.getByLabel('Next action', { exact: true }).fill('Ring about the visits');
    await priya.getByLabel('Next action', { exact: true }).press('Enter');
    await published;
    await expect(page.getByText('Version 2, live')).toBeVisible();
    await priya.goto(lanes);
    await expect(priya.getByRole('region', { name: 'Agreed' }).getByRole('link', { name: /^Plan two/ })).toBeVisible();
    await expect(
      priya.getByRole('region', { name: 'Coming due' }).getByRole('link', { name: /^Plan one/ }),
    ).toBeVisible();
    await priya.goto('/bell');
    await expect(priya.getByText('Terms go with the review now')).toBeVisible();
  });

  await test.step('compared, printed, and what was changed beside it looked through', async () => {
    await page.goto(`${process}/versions?from=1&to=2`);
    await expect(page.getByRole('region', { name: 'What changed' })).toContainText('Terms sent');
    await page.getByRole('link', { name: 'Sheet for sellers' }).click();
    await expect(page.getByRole('region', { name: 'Use reviewed' })).toContainText('Visits listed');
    await page.goto(`${process}/versions`);
    await expect(page.getByRole('row', { name: /Does the work themselves/ })).toContainText('Maren Holt');
  });

  await test.step('to a file, changed there, and brought back', async () => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: 'v2 as a file' }).click(),
    ]);
    const content = (await readFile(await download.path(), 'utf8')).replaceAll('Agreed', 'Signed');
    await page.goto('/processes');
    await page.getByRole('button', { name: 'From a file' }).click();
    await dialogOf(page)
      .getByLabel('The file')
      .setInputFiles({ name: 'p.json', mimeType: 'application/json', buffer: Buffer.from(content) });
    await dialogOf(page).getByLabel('Name').fill(`${name} again`);
    await dialogOf(page).getByRole('button', { name: 'Begin the draft' }).click();
    await expect(page.locator('.sheet .stage-name')).toHaveText(['Coming due', 'Use reviewed', 'Signed']);
  });

  await test.step('seen by one team alone, and gone for the others', async () => {
    await page.goto(process);
    await page.getByRole('button', { name: 'Rules, reasons and fields' }).click();
    await page.getByLabel('Sellers and managers of these teams').check();
    await page.getByLabel('Growers South').click();
    await expect(page.getByLabel('Growers South')).toBeChecked();
    await priya.goto('/processes');
    await expect(priya.getByRole('link', { name: 'New glasshouse build' })).toBeVisible();
    await expect(priya.getByRole('link', { name })).toHaveCount(0);
  });

  await test.step('the sheet is worked by keys, which are told', async () => {
    await page.goto(process);
    await expect(page.locator('.sheet .rung').first()).toBeVisible();
    await page.keyboard.press('?');
    await expect(dialogOf(page)).toContainText('add a stage');
    expect(await accessibilityProblems(page)).toEqual([]);
    await page.keyboard.press('Escape');
    await expect(dialogOf(page)).toBeHidden();
    await page.keyboard.press('ArrowDown');
    await expect(page.locator('.design-panel h2')).toContainText('Use reviewed');
    await page.keyboard.press('e');
    await expect(page.locator('.page-head').getByText('Draft 3')).toBeVisible();
    await page.keyboard.press('a');
    await expect(page.locator('.sheet .rung')).toHaveCount(4);
    await page.locator('.sheet-legend, .legend').first().click();
    await page.keyboard.press('Control+z');
    await expect(page.locator('.sheet .rung')).toHaveCount(3);
  });
});
