import type { endpoints } from '@ladder/contract';
import { type AnswerOf, api, type BodyOf, PRESS, queryString } from '../../client/api.ts';

type E = typeof endpoints;
export type Today = AnswerOf<E['getToday']>;
export type DayEntry = Today['items'][number];
export type DayItem = DayEntry['item'];
export type DayGroup = DayEntry['group'];

/** Whose day, and in which order; the same names stand in the address of the page. */
export interface DayArguments {
  readonly person?: string;
  readonly team?: string;
  readonly order?: string;
}

const todayApi = api.injectEndpoints({
  endpoints: (build) => ({
    getToday: build.infiniteQuery<Today, DayArguments, string | null>({
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.next ?? undefined },
      query: ({ queryArg, pageParam }) => `/today${queryString({ ...queryArg, after: pageParam })}`,
      providesTags: ['Today'],
    }),
    countLate: build.query<AnswerOf<E['countLate']>, void>({
      query: () => '/today/late',
      providesTags: ['Today'],
    }),
    listDone: build.query<AnswerOf<E['listDoneToday']>, DayArguments>({
      query: ({ person, team }) => `/today/done${queryString({ person, team })}`,
      providesTags: ['Today'],
    }),
    handOver: build.mutation<AnswerOf<E['handOver']>, BodyOf<E['handOver']>>({
      query: (body) => ({ url: '/today/hand-over', method: 'POST', body, headers: PRESS }),
      invalidatesTags: ['Today', 'Deal', 'Deals'],
    }),
  }),
});

export const { useGetTodayInfiniteQuery, useCountLateQuery, useListDoneQuery, useHandOverMutation } = todayApi;
