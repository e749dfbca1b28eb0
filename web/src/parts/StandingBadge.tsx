import type { Standing } from '@ladder/core';

const NAMES: Readonly<Record<Standing, string>> = { clear: 'Clear', flagged: 'Flagged', held: 'Held' };

/** A deal's standing, by word and colour. */
export function StandingBadge({ standing }: { standing: Standing }) {
  return <span className={`state ${standing}`}>{NAMES[standing]}</span>;
}
