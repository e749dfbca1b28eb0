import type { endpoints } from '@ladder/contract';
import type { DealId } from '@ladder/core';
import { type AnswerOf, api } from '../../client/api.ts';

type E = typeof endpoints;

const watchersApi = api.injectEndpoints({
  endpoints: (build) => ({
    getWatchers: build.query<AnswerOf<E['getWatchers']>, DealId>({
      query: (deal) => `/deals/${deal}/watchers`,
      providesTags: ['Watchers'],
    }),
    setWatching: build.mutation<AnswerOf<E['watchDeal']>, { deal: DealId; watching: boolean }>({
      query: ({ deal, watching }) => ({ url: `/deals/${deal}/watchers/me`, method: watching ? 'PUT' : 'DELETE' }),
      invalidatesTags: ['Watchers'],
    }),
  }),
});

export const { useGetWatchersQuery, useSetWatchingMutation } = watchersApi;
