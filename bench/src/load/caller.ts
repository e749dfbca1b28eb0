import { Agent, request } from 'node:http';

/** An answer, and the seconds that it took. */
export interface Timed {
  readonly status: number;
  readonly text: string;
  readonly headers: Readonly<Record<string, string | string[] | undefined>>;
  readonly seconds: number;
}

/** Asks a server over connections that are kept, for no longer than it takes to read the answer. */
export class Caller {
  private readonly agent = new Agent({ keepAlive: true });
  private headers: Readonly<Record<string, string>> = {};

  constructor(private readonly url: string) {}

  async signIn(email: string, password: string): Promise<void> {
    const { text, headers } = await this.ask('POST', '/api/v1/session', { email, password });
    const [cookie] = headers['set-cookie'] ?? [];
    this.headers = { Cookie: String(cookie).split(';')[0] ?? '', 'X-Ladder-Token': String(JSON.parse(text).csrf) };
  }

  async read<T>(path: string): Promise<T> {
    const { status, text } = await this.ask('GET', path);
    if (status !== 200) throw new Error(`GET ${path} answered ${status}: ${text.slice(0, 300)}`);
    return JSON.parse(text) as T;
  }

  ask(method: string, path: string, body?: unknown, more: Readonly<Record<string, string>> = {}): Promise<Timed> {
    const began = performance.now();
    const sent = typeof body === 'string' ? body : body === undefined ? '' : JSON.stringify(body);
    const length = { 'Content-Type': 'application/json', 'Content-Length': String(Buffer.byteLength(sent)) };
    const headers = { ...this.headers, ...(body === undefined ? {} : length), ...more };
    return new Promise((resolve, reject) => {
      const asked = request(new URL(path, this.url), { method, headers, agent: this.agent }, (answer) => {
        const parts: Buffer[] = [];
        answer.on('data', (part: Buffer) => parts.push(part));
        answer.on('end', () =>
          resolve({
            status: answer.statusCode ?? 0,
            text: Buffer.concat(parts).toString('utf8'),
            headers: answer.headers,
            seconds: (performance.now() - began) / 1_000,
          }),
        );
      });
      asked.on('error', reject);
      asked.end(sent);
    });
  }

  close(): void {
    this.agent.destroy();
  }
}
