import { DEMO_PASSWORD } from '@ladder/contract';
import { ADMINISTRATOR } from '@ladder/demo/company/people.ts';
import { PROCESS_IDS } from '@ladder/demo/demoBook.ts';
import { type Browser, chromium, type Page } from '@playwright/test';
import { buildWeb } from '../../scripts/build.mjs';
import { findChromium } from '../../scripts/chromium.mjs';
import { ROOT } from '../../scripts/command.mjs';
import { type BenchBook, SIZES, startBenchCluster } from './book/benchBook.ts';
import { median } from './load/inTurns.ts';
import { serveOurs } from './load/processes.ts';

/*
 * The web application in Chromium, as a person meets it: how long until the largest thing of a page is painted, and until
 * what was pressed for is there, in a small book and in a large one; and how much script each page fetches.
 */

const TIMES = 5;
const PROCESS = PROCESS_IDS.newBuild;
const LANES = `/deals?process=${PROCESS}`;
const TABLE = `${LANES}&view=table`;

type Measure = (page: Page) => Promise<number>;

const MEASURES: Readonly<Record<string, Measure>> = {
  'lanes, largest paint': (page) => largestPaint(page, LANES, 'a.deal-card'),
  'table, largest paint': (page) => largestPaint(page, TABLE, 'table a'),
  'opening a deal': async (page) => {
    await page.goto(LANES);
    await page.locator('a.deal-card').first().waitFor();
    // Its own facts, which no lane knows.
    return until(page, () => page.locator('a.deal-card').first().click(), '.climb-ladder, .ladder .rung');
  },
  'carrying a card by keyboard': async (page) => {
    await page.goto(LANES);
    await page.locator('.lane a.deal-card').first().focus();
    await page.keyboard.press('Space');
    return until(page, () => page.keyboard.press('ArrowDown'), '.drop-verdict');
  },
  'carrying a card by drag': async (page) => {
    await page.goto(LANES);
    const box = await page.locator('.lane a.deal-card').first().boundingBox();
    if (!box) throw new Error('There is no card');
    await page.mouse.move(box.x + 20, box.y + 10);
    await page.mouse.down();
    const carry = async (): Promise<void> => {
      await page.mouse.move(box.x + 40, box.y + 160, { steps: 4 });
    };
    const time = await until(page, carry, '.drop-verdict');
    await page.keyboard.press('Escape');
    await page.mouse.up();
    return time;
  },
  'a table’s next page': async (page) => {
    await page.goto(TABLE);
    await page.locator('table a').first().waitFor();
    const scroll = (): Promise<void> => page.evaluate(() => window.scrollTo(0, document.body.scrollHeight));
    return until(page, scroll, 'tr[aria-rowindex="110"]');
  },
};

/** Milliseconds from a press until what it is for is there. */
async function until(page: Page, press: () => Promise<unknown>, selector: string): Promise<number> {
  const began = performance.now();
  await press();
  await page.locator(selector).first().waitFor({ state: 'attached' });
  return performance.now() - began;
}

/** Largest contentful paint of a page that is loaded anew, in milliseconds from the navigation. */
async function largestPaint(page: Page, path: string, selector: string): Promise<number> {
  await page.goto(path);
  await page.locator(selector).first().waitFor();
  return page.evaluate(
    () =>
      new Promise<number>((resolve) => {
        new PerformanceObserver((list) => resolve(list.getEntries().at(-1)?.startTime ?? 0)).observe({
          type: 'largest-contentful-paint',
          buffered: true,
        });
      }),
  );
}

/** Kilobytes of script that a page fetches into an empty cache, as they are sent. */
async function scriptOf(browser: Browser, url: string, path: string): Promise<number> {
  const page = await signedIn(browser, url);
  await page.goto(path);
  await page.waitForLoadState('networkidle');
  const bytes = await page.evaluate(() =>
    (performance.getEntriesByType('resource') as PerformanceResourceTiming[])
      .filter(({ name }) => name.endsWith('.js'))
      .reduce((sum, { encodedBodySize }) => sum + encodedBodySize, 0),
  );
  await page.context().close();
  return bytes / 1_024;
}

async function signedIn(browser: Browser, url: string): Promise<Page> {
  const context = await browser.newContext({
    baseURL: url,
    viewport: { width: 1280, height: 800 },
    reducedMotion: 'reduce',
  });
  const { ok, status } = await context.request
    .post('/api/v1/session', { data: { email: ADMINISTRATOR.email, password: DEMO_PASSWORD } })
    .then((answer) => ({ ok: answer.ok(), status: answer.status() }));
  if (!ok) throw new Error(`Signing in was answered ${status}`);
  return context.newPage();
}

async function measureBook(browser: Browser, book: BenchBook): Promise<ReadonlyMap<string, number>> {
  const server = await serveOurs(book.serverUrl);
  const page = await signedIn(browser, server.url);
  const times = new Map<string, number>();
  for (const [name, measure] of Object.entries(MEASURES)) {
    const list: number[] = [];
    for (let turn = 0; turn <= TIMES; turn++) {
      const time = await measure(page);
      if (turn > 0) list.push(time);
    }
    times.set(name, median(list));
  }
  if (book.openDeals === SIZES[0])
    for (const path of [LANES, '/processes', '/compliance', '/movement', '/data'])
      console.log(`web script of ${path.split('?')[0]} ${(await scriptOf(browser, server.url, path)).toFixed(0)} kB`);
  await page.context().close();
  await server.stop();
  return times;
}

await buildWeb();
process.env.WEB_ROOT = `${ROOT}/web/dist`;
const cluster = await startBenchCluster();
const browser = await chromium.launch({
  executablePath: findChromium(),
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
try {
  const books = [];
  for (const size of SIZES) books.push(await measureBook(browser, await cluster.book(size)));
  const [small, large] = books;
  for (const [name, time] of large ?? []) {
    const other = small?.get(name) ?? 1;
    console.log(
      `web ${name} ${(time / other).toFixed(2)} times in the large book (${time.toFixed(0)} and ${other.toFixed(0)} ms)`,
    );
  }
} finally {
  await browser.close();
  await cluster.stop();
}
