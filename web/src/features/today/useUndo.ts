import { useCallback, useEffect, useState } from 'react';

/** For so long what was just done can be undone with one press. */
const OFFERED_MS = 30_000;

type Undoing = () => Promise<{ readonly error?: unknown }>;

interface Offer {
  readonly what: string;
  readonly undo: Undoing;
}

export interface Undo {
  /** What was done last, while it can be undone. */
  readonly what: string | null;
  readonly error: unknown;
  readonly offer: (what: string, undo: Undoing) => void;
  readonly undo: () => Promise<void>;
}

/** Offers for a while to undo what was done last. */
export function useUndo(): Undo {
  const [offered, setOffered] = useState<Offer | null>(null);
  const [error, setError] = useState<unknown>();
  useEffect(() => {
    if (!offered) return;
    const timer = setTimeout(() => setOffered(null), OFFERED_MS);
    return () => clearTimeout(timer);
  }, [offered]);
  const offer = useCallback((what: string, undo: Undoing) => {
    setError(undefined);
    setOffered({ what, undo });
  }, []);
  const undo = async () => {
    if (!offered) return;
    setOffered(null);
    const answer = await offered.undo();
    setError(answer.error);
  };
  return { what: offered?.what ?? null, error, offer, undo };
}
