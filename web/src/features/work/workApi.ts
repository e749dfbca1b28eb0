import type { endpoints, TypeOf, work } from '@ladder/contract';
import { type AnswerOf, api, queryString } from '../../client/api.ts';

export type Work = TypeOf<typeof work.view>;

const workApi = api.injectEndpoints({
  endpoints: (build) => ({
    /** The newest work with a subject. */
    latestWork: build.query<Work | null, string>({
      query: (subject) => `/work${queryString({ subject, limit: 1 })}`,
      transformResponse: ({ items }: AnswerOf<(typeof endpoints)['listWork']>) => items[0] ?? null,
      providesTags: ['Work'],
    }),
    cancelWork: build.mutation<Work, string>({
      query: (id) => ({ url: `/work/${id}/cancel`, method: 'POST' }),
      invalidatesTags: ['Work'],
    }),
  }),
});

export const { useLatestWorkQuery, useCancelWorkMutation } = workApi;
