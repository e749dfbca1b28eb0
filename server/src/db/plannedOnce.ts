import type { EntityManager } from 'typeorm';
import { inOrder } from './inOrder.ts';
import { sql } from './sql.ts';

/**
 * Asks with the plan that the session keeps of a statement. Left to choose, PostgreSQL plans one anew each time where it knows
 * more of the parameters, even where that takes longer than what it finds with them.
 */
export async function plannedOnce<T>(tx: EntityManager, ask: () => Promise<T>): Promise<T> {
  const [, answer] = await inOrder(
    sql(tx, `set local plan_cache_mode = 'force_generic_plan'`),
    ask(),
    sql(tx, `set local plan_cache_mode = 'auto'`),
  );
  return answer;
}
