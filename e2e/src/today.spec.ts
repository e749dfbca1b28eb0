import { expect, test } from '@playwright/test';
import { addTask, goTo, openClearDeal, openDay, pane, rowOf, showWholeDay, writeNote } from './dayPage.ts';
import { accessibilityProblems, beginDeal, openFirstPage, signIn, signInNewSeller } from './people.ts';

test('a seller’s day is worked by keyboard: tasks done and undone, put off, a call logged, a next action followed by another', async ({
  page,
}, { repeatEachIndex }) => {
  const name = `Daily ${repeatEachIndex}`;
  await signInNewSeller(page, `Dana Daily ${repeatEachIndex}`);
  await openFirstPage(page);
  await expect(page.getByRole('heading', { level: 1, name: 'Today' })).toBeVisible();
  // There is something to go on to, whatever is nobody's at the time.
  await openClearDeal(page, `Next ${repeatEachIndex}`);
  await addTask(page, 'Look at it tomorrow');
  await openClearDeal(page, name);

  await test.step('tasks are written in a line, which is read as one writes', async () => {
    await page.getByLabel('New task').fill('Ring them on 30 February');
    await expect(page.getByText('There is no 30 February.')).toBeVisible();
    await page.getByLabel('New task').fill('Ring the grower today 09:00');
    await expect(page.getByText('“Ring the grower”, due today at 09:00, for you')).toBeVisible();
    await page.getByLabel('New task').press('Enter');
    await expect(page.getByRole('checkbox', { name: 'Ring the grower' })).toBeVisible();
    await addTask(page, 'Send the drawing tomorrow');
    await page.getByLabel('Next action', { exact: true }).fill('Ask about planning');
    await page.getByLabel('Next action', { exact: true }).press('Enter');
    await page.getByLabel('Next action due').fill('2026-11-24');
    await page.getByLabel('Next action due').press('Enter');
  });

  await test.step('the deal stands once on the day, under what is due first', async () => {
    await openDay(page);
    await expect(rowOf(page, name)).toHaveCount(1);
    await expect(rowOf(page, name)).toContainText('Task due today, 09:00');
    await goTo(page, name);
    await expect(pane(page).getByRole('heading', { level: 2, name })).toBeVisible();
    await expect(pane(page)).toContainText('Send the drawing');
    expect(await accessibilityProblems(page)).toEqual([]);
  });

  await test.step('done and next, and undone', async () => {
    await page.keyboard.press('d');
    await expect(page.locator('.day-undo')).toContainText('Ring the grower: done');
    await expect(rowOf(page, name)).not.toContainText('09:00');
    await expect(rowOf(page, name)).toHaveAttribute('aria-current', 'false');
    await page.keyboard.press('u');
    await expect(rowOf(page, name)).toContainText('Task due today, 09:00');
    await goTo(page, name);
    await page.keyboard.press('d');
    await expect(rowOf(page, name)).toContainText('Next action due today');
  });

  await test.step('a call is logged without leaving', async () => {
    await page.locator('.today-head').getByLabel('By').selectOption('due day');
    await showWholeDay(page);
    await goTo(page, name);
    await writeNote(page, 'They like it.');
    await pane(page).getByText('call', { exact: true }).click();
    await pane(page).getByRole('button', { name: 'Add', exact: true }).click();
    await expect(pane(page).locator('.journal-line').first()).toContainText('They like it.');
  });

  await test.step('a next action is followed by another in the same gesture', async () => {
    await goTo(page, name);
    await pane(page).getByLabel('What comes after it?').fill('Send the offer');
    await pane(page).getByLabel('By', { exact: true }).fill('2026-11-24');
    await pane(page)
      .getByRole('button', { name: /^Done and next/ })
      .click();
    await expect(rowOf(page, name)).toContainText('Send the offer');
    await expect(rowOf(page, name)).toContainText('Next action due today');
  });

  await test.step('what comes later is asked why, by key', async () => {
    await openDay(page);
    await goTo(page, name);
    await page.keyboard.press('l');
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Due on').fill('2026-11-27');
    await page.keyboard.press('Enter');
    await expect(dialog).toBeHidden();
    await expect(rowOf(page, name)).toContainText('Send the drawing');
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog')).toContainText('undo what was done last');
    await page.keyboard.press('Escape');
    await page.locator('.day-row').first().focus();
    await goTo(page, name);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
  });
});

test('a held move is asked to be waived, granted by the manager in another browser, and made', async ({
  page,
  browser,
}, { repeatEachIndex }) => {
  const name = `Waived ${repeatEachIndex}`;
  await signIn(page, 'Priya Nandan');
  await beginDeal(page, name);
  await page.getByRole('button', { name: 'Move on' }).click();
  await expect(page.locator('.deal-title')).toContainText('Held');
  await page.getByRole('button', { name: 'Ask for a waiver…' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Ask', exact: true }).click();
  await expect(dialog.getByText('Say why.')).toBeVisible();
  await dialog.getByLabel('Why?').fill('They sign today');
  await dialog.getByRole('button', { name: 'Ask', exact: true }).click();
  await expect(dialog).toBeHidden();
  await expect(page.locator('.waivers')).toContainText('Asked for');
  await expect(page.locator('.waivers')).not.toContainText('Decide');
  expect(await accessibilityProblems(page)).toEqual([]);

  const other = await browser.newContext({ baseURL: new URL(page.url()).origin });
  const manager = await other.newPage();
  await signIn(manager, 'Tomas Verhey');
  await openDay(manager);
  await rowOf(manager, name).click();
  await expect(pane(manager)).toContainText('They sign today');
  expect(await accessibilityProblems(manager)).toEqual([]);
  await pane(manager).getByRole('button', { name: 'Refuse' }).click();
  await expect(pane(manager).getByText('Say why not.')).toBeVisible();
  await pane(manager).getByLabel('Granted until').fill('2026-11-26');
  await pane(manager).getByLabel('A word').fill('This once');
  await pane(manager).getByRole('button', { name: 'Grant' }).click();
  await expect(rowOf(manager, name)).toHaveCount(0);
  await other.close();

  await page.reload();
  await expect(page.locator('.waivers')).toContainText('In force until 26 Nov');
  await page.getByRole('button', { name: 'Move on' }).click();
  await expect(page.locator('.climb .now')).toContainText('Survey');
  await expect(page.getByText('Passed on a waiver')).toBeVisible();
});

test('what is due is carried to another day, by keyboard and by hand, and asks why where a task is put off', async ({
  page,
}, { repeatEachIndex }) => {
  const name = `Due ${repeatEachIndex}`;
  await signIn(page, 'Bea Ferrant');
  await beginDeal(page, name);
  await addTask(page, 'Post the samples on Wednesday');
  await page.goto('/today/week');
  // Whatever its process makes on arrival is due as well.
  const mine = { hasText: new RegExp(`Post the samples.*${name}`) };
  const chip = page.locator('.chip').filter(mine);
  const dayOf = (day: string) => page.getByRole('region', { name: day });
  await expect(dayOf('Wednesday 25 November').locator('.chip').filter(mine)).toBeVisible();
  await chip.focus();
  await page.keyboard.press('Alt+ArrowRight');
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByLabel('Due on')).toHaveValue('2026-11-26');
  await dialog.getByLabel('Why?').fill('The post is late');
  await dialog.getByRole('button', { name: 'Set the day' }).click();
  await expect(dayOf('Thursday 26 November').locator('.chip').filter(mine)).toBeVisible();
  const [from, to] = [await chip.boundingBox(), await dayOf('Friday 27 November').boundingBox()];
  if (!from || !to) throw new Error('Nothing to carry');
  await page.mouse.move(from.x + 20, from.y + 8);
  await page.mouse.down();
  await page.mouse.move(from.x + 40, from.y + 20, { steps: 3 });
  await page.mouse.move(to.x + 40, to.y + 60, { steps: 8 });
  await page.mouse.up();
  await expect(dialog.getByLabel('Due on')).toHaveValue('2026-11-27');
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  expect(await accessibilityProblems(page)).toEqual([]);
  await page.getByRole('link', { name: 'Month' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'November 2026' })).toBeVisible();
  expect(await accessibilityProblems(page)).toEqual([]);
  await page.getByRole('button', { name: 'Feed…' }).click();
  await page.getByRole('button', { name: 'Make a feed' }).click();
  const address = await page.getByLabel('Its address, shown this once').inputValue();
  expect(await (await page.request.get(address)).text()).toContain(`Post the samples · ${name}`);
});

test('a manager sees the day of a team, and hands over what is on it; an empty day is a pleasant page', async ({
  page,
}) => {
  await signIn(page, 'Tomas Verhey');
  await openFirstPage(page);
  await page.getByLabel('Day of').selectOption('Growers North');
  await expect(page.getByRole('heading', { level: 1, name: 'Today of Growers North' })).toBeVisible();
  const box = page.locator('.day-rows input[type=checkbox]:not([disabled])').first();
  const label = (await box.getAttribute('aria-label')) ?? '';
  await box.check();
  await page.getByRole('button', { name: 'Hand over 1…' }).click();
  await page.getByRole('dialog').getByLabel('To whom').selectOption('Oskar Lind');
  await page.getByRole('dialog').getByRole('button', { name: 'Hand over' }).click();
  await expect(page.getByRole('dialog')).toBeHidden();
  const deal = label.replace('Hand over what is to be done about ', '');
  await page.getByLabel('Day of').selectOption('Oskar Lind');
  await expect(rowOf(page, deal).first()).toBeVisible();
  await page.goto('/today?person=01900000-0000-7000-8000-0000000200ff');
  await expect(page.getByRole('alert')).toBeVisible();
});

test('sets of tasks are designed once, used on arrival, and what becomes of open tasks is asked as a deal closes', async ({
  page,
}, { repeatEachIndex }) => {
  const name = `Sets ${repeatEachIndex}`;
  await signIn(page, 'Priya Nandan');
  await beginDeal(page, name);
  await page.getByRole('button', { name: 'A set' }).click();
  await page.getByRole('button', { name: /^Once the deposit is in/ }).click();
  await expect(page.getByRole('checkbox', { name: 'Tell the build team who is on the site' })).toBeVisible();
  await page.getByRole('button', { name: 'Close deal' }).click();
  await page.getByRole('button', { name: 'As lost…' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Reason').selectOption({ index: 1 });
  if (await dialog.getByLabel('Come back to it on').isVisible())
    await dialog.getByLabel('Come back to it on').fill('2027-03-01');
  await dialog.getByRole('button', { name: /^Close as lost/ }).click();
  await expect(dialog.getByText('Say what becomes of the open tasks')).toBeVisible();
  await dialog.getByLabel('Cancel them').check();
  await dialog.getByRole('button', { name: /^Close as lost/ }).click();
  await expect(page.locator('.deal-title')).toContainText('Lost');
  await expect(page.locator('.tasks')).toContainText('cancelled');
});
