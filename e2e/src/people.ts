import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/** Signs in with one click, as the demo offers it. */
export async function signIn(page: Page, name: string): Promise<void> {
  await page.goto('/sign-in');
  await page.getByRole('button', { name }).click();
  await expect(page.getByRole('navigation', { name: 'Areas' })).toBeVisible();
}

/** Someone who signs in from now on; Maren Holt is signed in. */
async function addPerson(page: Page, called: string, role: string, teams: readonly string[]): Promise<void> {
  const account = {
    name: called,
    email: `${called.toLowerCase().replaceAll(' ', '.')}@hollin-marsh.example`,
    role,
    teams,
    password: 'glasshouse',
  };
  await page.evaluate(async (body) => {
    const { csrf } = await (await fetch('/api/v1/session')).json();
    const answer = await fetch('/api/v1/people', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', 'X-Ladder-Token': csrf },
      body: JSON.stringify(body),
    });
    if (!answer.ok) throw new Error(await answer.text());
  }, account);
}

/** A seller of Growers North who begins today, signed in: nothing that other tests left is on their day. */
export async function signInNewSeller(page: Page, name: string): Promise<void> {
  await signIn(page, 'Maren Holt');
  await addPerson(page, name, 'seller', ['01900000-0000-7000-8000-000000010001']);
  await changeTo(page, name);
}

/** Another administrator. */
export const addAdministrator = (page: Page, name: string): Promise<void> => addPerson(page, name, 'administrator', []);

/** Signs the present person out and another in. */
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
