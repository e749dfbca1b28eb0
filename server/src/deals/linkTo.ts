import type { Deal, DealLink } from '@ladder/core';

/** A deal as another's journal names it. */
export const linkTo = ({ id, name }: Pick<Deal, 'id' | 'name'>): DealLink => ({ deal: id, name });
