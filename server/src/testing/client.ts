import { request } from 'node:http';
import { checkAnswer } from './openApiCheck.ts';

// biome-ignore lint/suspicious/noExplicitAny: tests read answers that were checked against the OpenAPI document
type Body = any;

export interface Answer {
  readonly status: number;
  readonly body: Body;
  readonly headers: Headers;
}

/** Speaks to a test server as one person; every answer is checked against the OpenAPI document. */
export class Client {
  /** What makes a request this person's. */
  readonly headers: Readonly<Record<string, string>>;

  private constructor(
    private readonly url: string,
    cookie: string,
    token: string,
  ) {
    this.headers = { Cookie: cookie, 'X-Ladder-Token': token };
  }

  static anonymous(url: string): Client {
    return new Client(url, '', '');
  }

  static async signIn(url: string, email: string, password: string): Promise<Client> {
    const answer = await Client.anonymous(url).send('POST', '/session', { email, password }, 200);
    const cookie = answer.headers.get('Set-Cookie')?.split(';')[0] ?? '';
    return new Client(url, cookie, String(answer.body.csrf));
  }

  get = (path: string, expected = 200): Promise<Answer> => this.send('GET', path, undefined, expected);
  post = (path: string, body: unknown, expected = 200, headers: Record<string, string> = {}): Promise<Answer> =>
    this.send('POST', path, body, expected, headers);
  patch = (path: string, body: unknown, expected = 200): Promise<Answer> => this.send('PATCH', path, body, expected);

  upload = (
    path: string,
    content: string | Uint8Array,
    expected = 201,
    headers: Record<string, string> = {},
  ): Promise<Answer> =>
    this.send('POST', path, content, expected, { 'Content-Type': 'application/octet-stream', ...headers });

  /** An answer as it comes, its bytes not read. */
  download = (path: string): Promise<Response> => fetch(`${this.url}/api/v1${path}`, { headers: this.headers });

  /** Sends the beginning of a body that is announced as so long, and breaks it off. Rejects, as nobody answers it. */
  cutOff(path: string, bytes: number): Promise<void> {
    return new Promise((_resolve, reject) => {
      const headers = { ...this.headers, 'Content-Type': 'application/octet-stream', 'Content-Length': String(bytes) };
      const sending = request(`${this.url}/api/v1${path}`, { method: 'POST', headers });
      sending.on('error', reject);
      sending.write(Buffer.alloc(1_000));
      setTimeout(() => sending.destroy(new Error('cut off')), 100);
    });
  }

  /** Sends a request and throws where it is answered by another status than expected; 0 takes any. */
  async send(
    method: string,
    path: string,
    body: unknown,
    expected: number,
    headers: Record<string, string> = {},
  ): Promise<Answer> {
    const isRaw = typeof body === 'string' || body instanceof Uint8Array || body instanceof ReadableStream;
    const response = await fetch(`${this.url}/api/v1${path}`, {
      method,
      headers: {
        ...this.headers,
        ...(body === undefined ? {} : { 'Content-Type': isRaw ? 'text/csv' : 'application/json' }),
        ...headers,
      },
      ...(body === undefined ? {} : { body: isRaw ? (body as string) : JSON.stringify(body), duplex: 'half' }),
    });
    const text = await response.text();
    const mediaType = (response.headers.get('Content-Type') ?? '').split(';')[0] ?? '';
    const read = mediaType.includes('json') ? JSON.parse(text) : text;
    checkAnswer(method, path.split('?')[0] ?? path, response.status, mediaType, read);
    if (expected !== 0 && response.status !== expected)
      throw new Error(`${method} ${path} answered ${response.status}, not ${expected}: ${text.slice(0, 800)}`);
    return { status: response.status, body: read, headers: response.headers };
  }
}
