import { expect, test } from '@playwright/test';
import { accessibilityProblems, beginDeal, signIn } from './people.ts';

const lines = (...of: readonly string[]): string => of.join('\r\n');
const FILE = lines(
  'BEGIN:VCALENDAR',
  'VERSION:2.0',
  'PRODID:-//holidays//EN',
  'BEGIN:VEVENT',
  'DTSTART;VALUE=DATE:20250506',
  'RRULE:FREQ=YEARLY',
  'SUMMARY:Founding day',
  'END:VEVENT',
  'END:VCALENDAR',
);

test('a calendar takes holidays by hand and from a file, shows which days move, and counts for its process', async ({
  page,
}, { repeatEachIndex }) => {
  const name = `Works ${repeatEachIndex}`;
  await signIn(page, 'Maren Holt');
  await page.goto('/processes/calendars');
  await page.getByRole('button', { name: 'New calendar' }).click();
  await page.getByRole('dialog').getByLabel('Name').fill(name);
  await page.getByRole('dialog').getByRole('button', { name: 'Add the calendar' }).click();
  const panel = page.getByRole('complementary', { name });
  await panel.getByLabel('Saturday').check();
  await panel.getByLabel('Day of the holiday').fill('2031-03-04');
  await panel.getByLabel('Name of the holiday').fill('Stocktaking');
  await panel.getByLabel('Name of the holiday').press('Enter');
  await panel.getByRole('button', { name: 'From a file' }).click();
  const dialog = page.getByRole('dialog');
  const file = dialog.getByLabel('iCalendar file');
  await file.setInputFiles({ name: 'wrong.ics', mimeType: 'text/calendar', buffer: Buffer.from('no calendar') });
  await expect(dialog.getByRole('alert')).toContainText('This is not an iCalendar file');
  await file.setInputFiles({ name: 'days.ics', mimeType: 'text/calendar', buffer: Buffer.from(FILE) });
  await dialog.getByLabel('taken up to the year').fill('');
  await expect(dialog.getByRole('alert')).toContainText('Line 6, “Founding day”: it recurs without end');
  await dialog.getByLabel('taken up to the year').fill('2032');
  await expect(dialog.getByRole('status')).toContainText('8 days in the file');
  expect(await accessibilityProblems(page)).toEqual([]);
  await dialog.getByRole('button', { name: /^Take \d days/ }).click();
  await expect(panel).toContainText('Stocktaking');
  await page.getByRole('link', { name: 'Fields' }).click();
  await expect(page.getByRole('dialog')).toContainText('not saved yet');
  await page.getByRole('button', { name: 'Stay here' }).click();
  await panel.getByRole('button', { name: 'See what moves' }).click();
  await expect(dialog).toContainText('No day of an open deal moves');
  await dialog.getByRole('button', { name: 'Change the calendar' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByRole('row', { name })).toContainText('Monday to Saturday');

  await test.step('a process goes by it, and a deal that was counted by another is counted anew', async () => {
    await page.goto('/processes');
    await page.getByRole('button', { name: 'New process' }).click();
    await dialog.getByLabel('Name', { exact: true }).fill(`Counted ${repeatEachIndex}`);
    await dialog.getByLabel('First stage').fill('Begun');
    await dialog.getByRole('button', { name: 'Begin the draft' }).click();
    await expect(page.locator('.page-head').getByText('Draft 1')).toBeVisible();
    await page.getByLabel('Move on within').fill('20');
    await page.getByLabel('Move on within').press('Enter');
    await page.getByLabel('Counted in').selectOption('working');
    await page.getByRole('button', { name: 'Publish…' }).click();
    await dialog.getByRole('button', { name: 'Publish', exact: true }).click();
    await expect(page.getByText('Version 1, live')).toBeVisible();
    const process = new URL(page.url()).pathname;
    await beginDeal(page, 'Counted deal', `/deals?process=${process.split('/').pop()}`);
    const address = page.url();
    const moveOn = page.getByText(/^Since .*, target/);
    const before = await moveOn.textContent();
    await page.goto(process);
    await page.getByRole('button', { name: 'Rules, reasons and fields' }).click();
    await page.getByLabel('Calendar', { exact: true }).selectOption(name);
    await expect(dialog).toContainText('1 move-on day');
    await expect(dialog.getByRole('row')).toHaveCount(2);
    await dialog.getByRole('button', { name: 'Choose the calendar' }).click();
    await expect(dialog).toBeHidden();
    await expect(page.getByLabel('Calendar', { exact: true })).toHaveValue(/.+/);
    await page.goto(address);
    await expect(page.getByText(/Days counted anew/)).toBeVisible();
    await expect(moveOn).not.toHaveText(before ?? '');
  });
});
