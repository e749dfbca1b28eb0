import { catalogueOf, checkDesign, type Design, type DesignCheck, type Field } from '@ladder/core';

/** A design as it goes to the worker: names and fields as lists. */
export interface WorkerDesign extends Omit<Design, 'catalogue' | 'nameOf'> {
  readonly fields: readonly Field[];
  readonly kinds: readonly (readonly [string, string])[];
}

addEventListener('message', ({ data }: MessageEvent<WorkerDesign>) => {
  const { fields, kinds, ...design } = data;
  const names = new Map(kinds);
  const check: DesignCheck = checkDesign({
    ...design,
    catalogue: catalogueOf(fields),
    nameOf: (id) => names.get(id),
  });
  postMessage(check);
});
