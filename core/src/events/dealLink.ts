import type { DealId } from '../ids.ts';
import type { Shape } from '../shape.ts';

/** Another deal, named as it was called then. */
export interface DealLink {
  readonly deal: DealId;
  readonly name: string;
}

export const DEAL_LINK: Shape = { is: 'parts', of: { deal: { is: 'id' }, name: { is: 'name' } } };
