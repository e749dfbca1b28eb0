import { useCallback, useState } from 'react';
import { useWork } from './useWork.ts';
import type { Work } from './workApi.ts';

interface Sent {
  readonly data?: Work;
  readonly error?: unknown;
}

/**
 * A command that is done behind its request: it is begun and followed. `send` is answered when it has ended, as a short
 * command would be.
 */
export function useLongCommand<Body>(subject: string, begin: (body: Body) => Promise<Sent>, onDone: () => void) {
  const [begun, setBegun] = useState<Work>();
  const [error, setError] = useState<unknown>();
  const [ended, setEnded] = useState<(sent: Sent) => void>();
  const onEnd = useCallback(
    (work: Work) => {
      ended?.({ data: work, ...(work.problem ? { error: { data: work.problem } } : {}) });
      if (work.state === 'done') onDone();
    },
    [ended, onDone],
  );
  const work = useWork({ subject, begun, onEnd });
  const send = async (body: Body): Promise<Sent> => {
    const answer = await begin(body);
    const sent = answer.data ? await untilEnded(answer.data) : answer;
    setError(sent.error);
    return sent;
  };
  const untilEnded = (started: Work): Promise<Sent> =>
    new Promise((resolve) => {
      setEnded(() => resolve);
      setBegun(started);
    });
  return { send, work, error, isBusy: work?.state === 'running' };
}
