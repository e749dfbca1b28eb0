import { Button } from 'react-bootstrap';

export interface ShowMoreProps {
  /** A list that is read page by page. */
  readonly list: {
    readonly hasNextPage: boolean;
    readonly isFetchingNextPage: boolean;
    readonly fetchNextPage: () => unknown;
  };
  readonly label?: string;
}

/** Reads the next page of a list; nothing where there is none. */
export function ShowMore({ list, label = 'Show more' }: ShowMoreProps) {
  if (!list.hasNextPage) return null;
  return (
    <Button variant="link" disabled={list.isFetchingNextPage} onClick={() => list.fetchNextPage()}>
      {label}
    </Button>
  );
}
