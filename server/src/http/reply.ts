/** What a handler gives back; the status is the endpoint's own unless it says otherwise. */
export interface Reply {
  readonly body?: unknown;
  /** The body as JSON, where it was written out already. */
  readonly written?: string;
  readonly status?: number;
  readonly headers?: Readonly<Record<string, string>>;
}

export const reply = (body: unknown, headers: Readonly<Record<string, string>> = {}): Reply => ({ body, headers });
