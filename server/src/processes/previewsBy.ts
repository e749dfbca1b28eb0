import type { Config } from '../config.ts';
import { ConnectionLost } from '../db/failures.ts';
import type { Threads } from '../threads.ts';
import type { PreviewEffect, Previewed } from './previewEffect.ts';

/** Previews that are worked out in the threads of long work, which have the code to judge deals at hand. */
export const previewsBy =
  (threads: Threads['work'], { databaseUrl, logLevel }: Config) =>
  async (previewed: Previewed): Promise<PreviewEffect> => {
    const effect = await threads.run({ previewed, databaseUrl, logLevel }, { name: 'preview' });
    if (!effect) throw new ConnectionLost('The thread that previews a publish lost the database');
    return effect;
  };
