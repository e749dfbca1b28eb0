import type { Context } from './context.ts';

/** Does a work again and again, one at a time; what fails is told, and tried again with the next. */
export function every(
  context: Context,
  pauseMs: number,
  name: string,
  work: (context: Context) => Promise<unknown>,
): { readonly stop: () => Promise<void> } {
  let isStopped = false;
  let timer: NodeJS.Timeout | undefined;
  const once = async (): Promise<void> => {
    await work(context).catch((error) => context.log.warn({ err: error }, `${name} failed`));
    if (isStopped) return;
    timer = setTimeout(() => {
      last = once();
    }, pauseMs);
    timer.unref();
  };
  let last = once();
  return {
    stop: async () => {
      isStopped = true;
      clearTimeout(timer);
      await last;
    },
  };
}
