import { ButtonGroup } from 'react-bootstrap';
import { NavLink, useSearchParams } from 'react-router';

const KEPT = ['process', 'team', 'owner'];

/** The two sides of compliance: how deals stand, and how the work on them is done. What is chosen goes along. */
export function CompliancePages() {
  const [search] = useSearchParams();
  const kept = new URLSearchParams([...search].filter(([name]) => KEPT.includes(name)));
  const link = (path: string, name: string) => (
    <NavLink end to={{ pathname: path, search: kept.toString() }} className="btn btn-outline-secondary">
      {name}
    </NavLink>
  );
  return (
    <ButtonGroup role="navigation" aria-label="Pages of compliance">
      {link('/compliance', 'Deals')}
      {link('/compliance/work', 'Work')}
    </ButtonGroup>
  );
}
