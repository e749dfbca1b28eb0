type Answers<Asked extends readonly Promise<unknown>[]> = {
  -readonly [Place in keyof Asked]: Awaited<Asked[Place]>;
};

/** Waits for what was asked of one connection at once. Of several that fail the first is told, for it is why the others did. */
export async function inOrder<const Asked extends readonly Promise<unknown>[]>(
  ...asked: Asked
): Promise<Answers<Asked>> {
  for (const one of asked) one.catch(() => undefined);
  const answers: unknown[] = [];
  for (const one of asked) answers.push(await one);
  return answers as Answers<Asked>;
}
