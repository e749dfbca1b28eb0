import AxeBuilder from '@axe-core/playwright';
import { DEMO_PASSWORD } from '@ladder/contract';
import { PEOPLE, TEAMS } from '@ladder/demo/company/people.ts';
import { expect, type Page } from '@playwright/test';
import { send } from './api.ts';

const emailOf = (name: string): string =>
  PEOPLE.find((one) => one.name === name)?.email ?? `${name.toLowerCase().replaceAll(' ', '.')}@hollin-marsh.example`;

/** From here on the browser is this person's; the next page that it opens says so. */
export async function signIn(page: Page, name: string): Promise<void> {
  const answer = await page.request.post('/api/v1/session', {
    data: { email: emailOf(name), password: DEMO_PASSWORD },
  });
  expect(answer.ok()).toBe(true);
}

/** Opens the page that a person begins with. */
export async function openFirstPage(page: Page): Promise<void> {
  await page.goto('/');
  await expect(page.getByRole('navigation', { name: 'Areas' })).toBeVisible();
}

/** Someone who signs in from now on; Maren Holt is signed in. */
const addPerson = (page: Page, name: string, role: string, teams: readonly string[]) =>
  send(page, 'POST', '/people', { body: { name, email: emailOf(name), role, teams, password: DEMO_PASSWORD } });

/** A seller of Growers North who begins today, signed in: nothing that other tests left is on their day. */
export async function signInNewSeller(page: Page, name: string): Promise<void> {
  await signIn(page, 'Maren Holt');
  await addPerson(
    page,
    name,
    'seller',
    TEAMS.slice(0, 1).map(({ id }) => id),
  );
  await signIn(page, name);
}

/** Another administrator. */
export const addAdministrator = (page: Page, name: string) => addPerson(page, name, 'administrator', []);

/** Signs the present person out and another in, each with one click, as the demo offers it. */
export async function changeTo(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: 'Sign out' }).click();
  await expect(page).toHaveURL(/sign-in/);
  await page.getByRole('button', { name }).click();
  await expect(page.getByRole('navigation', { name: 'Areas' })).toBeVisible();
}

const RULES = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];

/** What axe finds on the page as it stands, by rule and place: WCAG 2.2 A and AA, or one rule alone. */
export async function accessibilityProblems(page: Page, rule?: string): Promise<readonly string[]> {
  const axe = new AxeBuilder({ page }).options({
    runOnly: rule ? { type: 'rule', values: [rule] } : { type: 'tag', values: RULES },
    // What passes is not told: to describe it takes longer than to look at it.
    resultTypes: ['violations'],
  });
  // No page has frames of others, for which axe would open a page of its own each time.
  const { violations } = await axe.setLegacyMode(true).analyze();
  return violations.flatMap(({ id, nodes }) =>
    nodes.map(
      ({ target, failureSummary }) => `${id} ${target.join(' ')} ${failureSummary?.split('\n')[1]?.trim() ?? ''}`,
    ),
  );
}

/** Said in the address: the process of most deals, which is shown else, is another for some sellers at some times. */
const NEW_BUILD_LANES = '/deals?process=01900000-0000-7000-8000-000000040001';

/** Begins a deal on the lanes of a process, New glasshouse build unless told otherwise, and opens it. */
export async function beginDeal(page: Page, name: string, lanes = NEW_BUILD_LANES): Promise<void> {
  await page.goto(lanes);
  await page.getByRole('button', { name: 'New deal' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name of the deal').fill(name);
  await dialog.getByRole('button', { name: 'Begin the deal' }).click();
  await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
}

/** Turns the live version that is shown into a draft, and waits until the draft's own sheet has taken its place. */
export async function editAsDraft(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Edit as a draft' }).click();
  await expect(page.locator('.page-head').getByText(/^Draft \d+$/)).toBeVisible();
}

/** Chooses a stage of the sheet by its place, and waits until the panel is about it. */
export async function openStage(page: Page, place: number): Promise<void> {
  const rung = page.locator('.sheet-select').nth(place);
  await rung.click();
  await expect(page.locator('.design-panel h2')).toContainText((await rung.locator('.stage-name').textContent()) ?? '');
}

/** Adds a stage to the sheet, and waits until the panel is about it. */
export async function addStage(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Add stage' }).click();
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue(/^Stage \d+$/);
}
