import type { Context } from '../context.ts';
import { doDueWork } from './doDueWork.ts';

const EVERY_MS = 5_000;

/** Looks again and again for what has fallen due, one look at a time; what fails is tried again with the next. */
export function startDueWork(context: Context): { readonly stop: () => Promise<void> } {
  let isStopped = false;
  let timer: NodeJS.Timeout | undefined;
  const look = async (): Promise<void> => {
    await doDueWork(context).catch((error) => context.log.warn({ err: error }, 'due work was not looked for'));
    if (isStopped) return;
    timer = setTimeout(() => {
      last = look();
    }, EVERY_MS);
    timer.unref();
  };
  let last = look();
  return {
    stop: async () => {
      isStopped = true;
      clearTimeout(timer);
      await last;
    },
  };
}
