import { PageTabs } from '../../parts/PageTabs.tsx';

const PAGES = [
  { path: '/today', name: 'List' },
  { path: '/today/week', name: 'Week' },
  { path: '/today/month', name: 'Month' },
];

/** The same day as a list, or on a calendar; whose it is goes along. */
export const DayPages = () => <PageTabs label="Ways to see the day" kept={['person', 'team']} pages={PAGES} />;
