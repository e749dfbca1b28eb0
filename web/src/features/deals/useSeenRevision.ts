import { useAppDispatch } from '../../client/hooks.ts';
import { type DealDetail, dealsApi } from './dealsApi.ts';
import { ownRevision } from './ownRevisions.ts';

/**
 * The revision that the person has seen, after their own changes: those still under way, and those answered that the page
 * draws only with its next frame. Whoever fills the last field and presses Move on at once must not be told that the deal was
 * changed meanwhile.
 */
export function useSeenRevision(): (deal: Pick<DealDetail, 'id' | 'revision'>) => Promise<number> {
  const dispatch = useAppDispatch();
  return async ({ id, revision }) => {
    const answers = await Promise.all(dispatch(dealsApi.util.getRunningMutationsThunk()));
    const underWay = answers.flatMap(({ data }) => (isDeal(data) && data.id === id ? [data.revision] : []));
    return Math.max(revision, ownRevision(id), ...underWay);
  };
}

const isDeal = (data: unknown): data is DealDetail =>
  typeof data === 'object' && data !== null && 'revision' in data && 'id' in data;
