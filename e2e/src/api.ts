import type { APIResponse, Page } from '@playwright/test';

interface Request {
  readonly body?: unknown;
  /** Of a body that is no JSON. */
  readonly type?: string;
  /** What is changed was seen at this revision. */
  readonly revision?: number;
}

/** Sends a request as the person who is signed in there, as the pages send theirs; says what was answered where it was refused. */
export async function send<Answer = Record<string, unknown>>(
  page: Page,
  method: string,
  path: string,
  { body, type = 'application/json', revision }: Request = {},
): Promise<Answer> {
  const { csrf } = await answered(await page.request.get('/api/v1/session'));
  const headers: Record<string, string> = { 'Content-Type': type, 'X-Ladder-Token': csrf };
  if (revision !== undefined) headers['If-Match'] = `"${revision}"`;
  const data = type === 'application/json' ? JSON.stringify(body) : body;
  return answered(await page.request.fetch(`/api/v1${path}`, { method, headers, data }));
}

/** What is read there. */
export const read = async (page: Page, path: string) => answered(await page.request.get(`/api/v1${path}`));

async function answered(answer: APIResponse) {
  if (!answer.ok()) throw new Error(`${answer.url()} answered ${answer.status()}: ${await answer.text()}`);
  return answer.json();
}
