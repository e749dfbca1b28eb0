/**
 * Does something with each of the things in order, with two of them at a time: while the database works on one, the other is
 * decided. What goes wrong with one is told once nothing is being done any more.
 */
export async function inPairs<T>(things: AsyncIterable<T>, work: (thing: T) => Promise<void>): Promise<void> {
  let last: Promise<void> = Promise.resolve();
  try {
    for await (const thing of things) {
      const before = last;
      last = work(thing);
      // It is told when it is its turn.
      last.catch(() => undefined);
      await before;
    }
  } finally {
    await last;
  }
}
