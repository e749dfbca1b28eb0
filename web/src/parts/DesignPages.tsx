import { useSession } from '../client/session.ts';
import { PageTabs } from './PageTabs.tsx';

const PAGES = [
  { path: '/processes', name: 'Processes' },
  { path: '/processes/fields', name: 'Fields' },
  { path: '/processes/calendars', name: 'Calendars' },
] as const;

/** What processes are made of, and share: for administrators. */
export function DesignPages() {
  const { person } = useSession();
  return person.role === 'administrator' && <PageTabs label="Design" kept={[]} pages={PAGES} />;
}
