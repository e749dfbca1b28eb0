import { PageTabs } from '../../parts/PageTabs.tsx';

const PAGES = [
  { path: '/compliance', name: 'Deals' },
  { path: '/compliance/work', name: 'Work' },
];

/** The two sides of compliance: how deals stand, and how the work on them is done. What is chosen goes along. */
export const CompliancePages = () => (
  <PageTabs label="Pages of compliance" kept={['process', 'team', 'owner']} pages={PAGES} />
);
