import 'vitest';

declare module 'vitest' {
  export interface ProvidedContext {
    /** Addresses of the test cluster under the migrating role and under the server's. */
    ownerUrl: string;
    serverUrl: string;
  }
}
