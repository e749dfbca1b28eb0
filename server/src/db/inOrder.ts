type Answers<Asked extends readonly Promise<unknown>[]> = {
  -readonly [Place in keyof Asked]: Awaited<Asked[Place]>;
};

/**
 * Waits for what was asked at once, mostly of one connection. Of several that fail the first is told, for it is why the others did; and
 * not before all have ended, so that none goes on behind what is done about it.
 */
export async function inOrder<const Asked extends readonly Promise<unknown>[]>(
  ...asked: Asked
): Promise<Answers<Asked>> {
  const ended = await Promise.allSettled(asked);
  return ended.map((one) => {
    if (one.status === 'rejected') throw one.reason;
    return one.value;
  }) as Answers<Asked>;
}
