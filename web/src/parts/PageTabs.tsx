import { ButtonGroup } from 'react-bootstrap';
import { NavLink, useSearchParams } from 'react-router';

interface PageTabsProps {
  readonly label: string;
  /** What of the address goes along. */
  readonly kept: readonly string[];
  readonly pages: readonly { readonly path: string; readonly name: string }[];
}

/** Pages that belong together, beside a title. */
export function PageTabs({ label, kept, pages }: PageTabsProps) {
  const [search] = useSearchParams();
  const along = new URLSearchParams([...search].filter(([name]) => kept.includes(name))).toString();
  return (
    <ButtonGroup role="navigation" aria-label={label}>
      {pages.map(({ path, name }) => (
        <NavLink key={path} end to={{ pathname: path, search: along }} className="btn btn-outline-secondary">
          {name}
        </NavLink>
      ))}
    </ButtonGroup>
  );
}
