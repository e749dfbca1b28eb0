import { Dropdown } from 'react-bootstrap';

interface CopyToProps {
  readonly name: string;
  /** Where it can be copied to. */
  readonly targets: readonly { readonly id: string; readonly name: string }[];
  readonly onCopy: (target: string) => void;
}

/** Copies one of a list to somewhere else. */
export function CopyTo({ name, targets, onCopy }: CopyToProps) {
  return (
    <Dropdown align="end" className="copy-to" onSelect={(target) => target !== null && onCopy(target)}>
      <Dropdown.Toggle variant="link" size="sm" aria-label={`Copy to: ${name}`}>
        Copy to
      </Dropdown.Toggle>
      <Dropdown.Menu>
        {targets.map((target) => (
          <Dropdown.Item key={target.id} as="button" eventKey={target.id}>
            {target.name}
          </Dropdown.Item>
        ))}
      </Dropdown.Menu>
    </Dropdown>
  );
}
