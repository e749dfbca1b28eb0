import { expect, test } from '@playwright/test';
import { addTask, goTo, openClearDeal, openDay, rowOf } from './dayPage.ts';
import { signIn, signInNewSeller } from './people.ts';

const FRAME_MS = 700;

/**
 * Answers are drawn with the browser's next frame. On a slow machine a person presses what stands there before it: with frames
 * this far apart every press does.
 */
test.beforeEach(({ page }) =>
  page.addInitScript((ms) => {
    window.requestAnimationFrame = (draw) => window.setTimeout(() => draw(performance.now()), ms);
  }, FRAME_MS),
);

test('a deal is moved on with its last edit answered and not yet drawn', async ({ page }, { repeatEachIndex }) => {
  await signInNewSeller(page, `Mo Movings ${repeatEachIndex}`);
  await openClearDeal(page, `Moved before the frame ${repeatEachIndex}`);
  // Nobody tells from outside when an answer is there and not drawn: the page presses by itself.
  await page.evaluate(() => {
    const ask = window.fetch;
    const press = () => [...document.querySelectorAll('button')].find((one) => one.textContent === 'Move on')?.click();
    window.fetch = async (...request) => {
      const answer = await ask(...request);
      if (request[0] instanceof Request && request[0].method === 'PATCH') setTimeout(press, 10);
      return answer;
    };
  });
  const box = page.getByLabel('Next action', { exact: true });
  await box.fill('Ask about planning');
  const moved = page.waitForResponse((response) => response.url().endsWith('/moves'));
  await box.press('Enter');
  expect((await (await moved).json()).detail).toMatch(/^\d+ requirements hold this move\.$/);
});

test('a task is done by key with the one before told as done and not yet drawn', async ({ page }, {
  repeatEachIndex,
}) => {
  const name = `Done before the frame ${repeatEachIndex}`;
  await signInNewSeller(page, `Do Doings ${repeatEachIndex}`);
  await openClearDeal(page, 'Another');
  await addTask(page, 'Look at it today');
  await openClearDeal(page, name);
  for (const task of ['First', 'Second', 'Third']) await addTask(page, `${task} today`);
  await openDay(page);
  for (const task of ['First', 'Second', 'Third']) {
    await goTo(page, name);
    await page.keyboard.press('d');
    await expect(page.locator('.day-undo')).toContainText(`${task}: done`);
  }
  await expect(rowOf(page, name)).toHaveCount(0);
});

test('a stage is named as soon as it is there', async ({ page }, { repeatEachIndex }) => {
  await signIn(page, 'Maren Holt');
  await page.goto('/processes');
  await page.getByRole('button', { name: 'New process' }).click();
  await page.getByLabel('Name', { exact: true }).fill(`Named at once ${repeatEachIndex}`);
  await page.getByLabel('First stage').fill('Asked');
  await page.getByRole('button', { name: 'Begin the draft' }).click();
  await expect(page.locator('.page-head').getByText('Draft 1')).toBeVisible();
  // Written as soon as the box is in the page, which no hand is quick enough for on a fast machine.
  await page.evaluate(() => {
    const toWrite = ['Agreed', 'Handed over', 'Settled'];
    const setValue = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set;
    new MutationObserver(() => {
      const box = document.querySelector<HTMLInputElement>('.design-panel input');
      if (!box || !/^Stage \d+$/.test(box.value)) return;
      setValue?.call(box, toWrite.shift());
      box.dispatchEvent(new Event('input', { bubbles: true }));
    }).observe(document.body, { subtree: true, childList: true, attributes: true, characterData: true });
  });
  for (const stage of ['Agreed', 'Handed over', 'Settled']) {
    await page.getByRole('button', { name: 'Add stage' }).click();
    await expect(page.getByLabel('Name', { exact: true })).toHaveValue(stage);
    await page.getByLabel('Name', { exact: true }).press('Enter');
    await expect(page.locator('.sheet .stage-name').filter({ hasText: stage })).toHaveCount(1);
  }
});
