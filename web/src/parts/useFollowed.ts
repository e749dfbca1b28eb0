import { useState } from 'react';

/**
 * Follows what somebody else changes, once each time, while nothing is being written here. What was just saved here is not put
 * back to what was read before it.
 */
export function useFollowed<Read>(present: Read, isWriting: boolean, follow: (present: Read) => void): void {
  const [followed, setFollowed] = useState(present);
  if (followed === present || isWriting) return;
  setFollowed(present);
  follow(present);
}
