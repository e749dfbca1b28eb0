import { setTimeout as pause } from 'node:timers/promises';

// biome-ignore lint/suspicious/noExplicitAny: answers of many shapes, read where they are asked for
type Body = any;

/** Told apart from a crash: the server answered, and said no. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    told: string,
  ) {
    super(`${status} ${told}`);
  }
}

/** One person who asks until they are answered, as the application does: again with the same key, whatever became of the first try. */
export class Caller {
  private headers: Record<string, string> = {};
  /** How often a request was asked again. */
  asked = 0;

  constructor(
    private readonly url: string,
    private readonly email: string,
    private readonly password: string,
  ) {}

  async signIn(): Promise<this> {
    const { csrf, cookie } = await this.ask('POST', '/session', { email: this.email, password: this.password });
    this.headers = { Cookie: cookie, 'X-Ladder-Token': csrf };
    return this;
  }

  /** The answer's body. Throws `Refused` where the server says no; waits for as long as it says nothing. */
  async ask(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<Body> {
    for (;;) {
      const answer = await this.once(method, path, body, headers);
      if (answer) return answer;
      this.asked++;
      await pause(150);
    }
  }

  private async once(
    method: string,
    path: string,
    body: unknown,
    headers: Record<string, string>,
  ): Promise<Body | null> {
    const isFile = typeof body === 'string';
    try {
      const response = await fetch(`${this.url}/api/v1${path}`, {
        method,
        headers: { ...this.headers, 'Content-Type': isFile ? 'text/csv' : 'application/json', ...headers },
        ...(body === undefined ? {} : { body: isFile ? body : JSON.stringify(body) }),
        signal: AbortSignal.timeout(60_000),
      });
      const text = await response.text();
      if (response.status >= 500 || response.status === 429) return null;
      if (!response.ok) throw new Refused(response.status, `${method} ${path}: ${text.slice(0, 500)}`);
      const cookie = response.headers.get('Set-Cookie')?.split(';')[0];
      return { ...(text === '' ? {} : JSON.parse(text)), ...(cookie ? { cookie } : {}) };
    } catch (error) {
      if (error instanceof Refused) throw error;
      return null;
    }
  }
}
