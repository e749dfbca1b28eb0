import { useState } from 'react';

/**
 * What stands in a box: what is kept, until something is written. What comes to be kept otherwise replaces it at once, while
 * the page is drawn: an effect would do it a moment after, and take away what was written in between.
 */
export function useWritten(kept: string): [text: string, write: (text: string) => void] {
  const [text, write] = useState(kept);
  const [known, setKnown] = useState(kept);
  if (known === kept) return [text, write];
  setKnown(kept);
  write(kept);
  return [kept, write];
}
