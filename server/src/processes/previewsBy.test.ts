import { expect, it } from 'vitest';
import { isConnectionLost } from '../db/failures.ts';
import { testConfig } from '../testing/testServer.ts';
import type { Previewed } from './previewEffect.ts';
import { previewsBy } from './previewsBy.ts';

it('a thread that lost the database is told of as a lost connection, which is answered by trying again', async () => {
  const config = testConfig({ serverUrl: 'postgres://nowhere', ownerUrl: '', drop: async () => undefined });
  const threads = { run: async () => undefined } as unknown as Parameters<typeof previewsBy>[0];
  const error: unknown = await previewsBy(threads, config)({} as Previewed).catch((thrown: unknown) => thrown);
  expect(isConnectionLost(error)).toBe(true);
});
