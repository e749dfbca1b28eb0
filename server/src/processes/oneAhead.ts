import { setImmediate as turn } from 'node:timers/promises';

/** The same things, each next one asked for while the present one is worked on: whoever makes them works at the same time. */
export async function* oneAhead<T>(things: AsyncGenerator<T>): AsyncGenerator<T> {
  let next = things.next();
  try {
    for (;;) {
      const { done, value } = await next;
      if (done) return;
      next = things.next();
      // It is told when it is its turn.
      next.catch(() => undefined);
      // Only a turn of the event loop sends what was asked for: else it would wait until the present one is done with.
      await turn();
      yield value;
    }
  } finally {
    await next.catch(() => undefined);
    await things.return(undefined);
  }
}
