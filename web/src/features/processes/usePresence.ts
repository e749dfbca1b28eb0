import { useEffect, useRef, useState } from 'react';
import { useAppStore } from '../../client/hooks.ts';
import { draftOf } from './draftSlice.ts';
import { useTellPresenceMutation } from './processesApi.ts';

const EVERY_MS = 10_000;

/** Names of others who have the draft open; what they save is taken in as it is heard of. */
export function usePresence(process: string, takeIn: () => Promise<void>): readonly string[] {
  const [tell] = useTellPresenceMutation();
  const store = useAppStore();
  const [others, setOthers] = useState<readonly string[]>([]);
  const take = useRef(takeIn);
  take.current = takeIn;
  useEffect(() => {
    const ask = async () => {
      const { data } = await tell(process);
      if (!data) return;
      setOthers(data.others.map(({ name }) => name));
      const { revision, save } = draftOf(store.getState());
      if (data.revision > revision && save !== 'conflict') await take.current();
    };
    void ask();
    const timer = setInterval(() => void ask(), EVERY_MS);
    return () => clearInterval(timer);
  }, [process, tell, store]);
  return others;
}
