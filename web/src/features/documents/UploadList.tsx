import { Button, ProgressBar } from 'react-bootstrap';
import type { Upload } from './useUploads.ts';

interface UploadListProps {
  readonly uploads: readonly Upload[];
  readonly onDrop: (id: string) => void;
}

/** How far files are, and which of them could not be attached. */
export function UploadList({ uploads, onDrop }: UploadListProps) {
  if (uploads.length === 0) return null;
  return (
    <ul className="uploads">
      {uploads.map(({ id, name, share, problem }) => (
        <li key={id}>
          <span>{name}</span>
          {problem === null ? (
            <ProgressBar now={share * 100} aria-label={`${name} on its way`} />
          ) : (
            <span className="small text-held" role="alert">
              {problem}{' '}
              <Button variant="link" size="sm" className="p-0" onClick={() => onDrop(id)}>
                All right
              </Button>
            </span>
          )}
        </li>
      ))}
    </ul>
  );
}
