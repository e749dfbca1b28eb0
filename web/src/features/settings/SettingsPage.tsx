import './settings.css';
import { Button, ButtonGroup } from 'react-bootstrap';
import { useSearchParams } from 'react-router';
import { useSession } from '../../client/session.ts';
import { DocumentKindSettings } from './DocumentKindSettings.tsx';
import { MessageSettings } from './MessageSettings.tsx';
import { PeopleSettings } from './PeopleSettings.tsx';
import { RateSettings } from './RateSettings.tsx';
import { SettingsChanges } from './SettingsChanges.tsx';
import { TeamSettings } from './TeamSettings.tsx';

const PARTS = [
  { id: 'people', name: 'People', Part: PeopleSettings },
  { id: 'teams', name: 'Teams', Part: TeamSettings },
  { id: 'documents', name: 'Documents', Part: DocumentKindSettings },
  { id: 'rates', name: 'Exchange rates', Part: RateSettings },
  { id: 'messages', name: 'Messages', Part: MessageSettings },
  { id: 'changes', name: 'Changes', Part: SettingsChanges },
] as const;

/** What holds for the whole organisation. Which part is open stands in the address. */
export function SettingsPage() {
  const { person, organisation } = useSession();
  const [search, setSearch] = useSearchParams();
  if (person.role !== 'administrator')
    return (
      <div className="empty">
        <h2>Settings are for administrators</h2>
      </div>
    );
  const { id: open, Part } = PARTS.find(({ id }) => id === search.get('part')) ?? PARTS[0];
  return (
    <>
      <header className="page-head">
        <div>
          <div className="crumb">{organisation.name}</div>
          <h1>Settings</h1>
        </div>
        <div className="grow" />
        <ButtonGroup aria-label="Part">
          {PARTS.map(({ id, name }) => (
            <Button
              key={id}
              variant="outline-secondary"
              active={id === open}
              aria-pressed={id === open}
              onClick={() => setSearch({ part: id })}
            >
              {name}
            </Button>
          ))}
        </ButtonGroup>
      </header>
      <div className="page-body settings">
        <Part />
      </div>
    </>
  );
}
