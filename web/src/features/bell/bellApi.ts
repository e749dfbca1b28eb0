import type { endpoints } from '@ladder/contract';
import { type AnswerOf, api, type BodyOf, queryString } from '../../client/api.ts';

type E = typeof endpoints;
export type Notice = AnswerOf<E['listNotices']>['items'][number];

export const bellApi = api.injectEndpoints({
  endpoints: (build) => ({
    listNotices: build.infiniteQuery<AnswerOf<E['listNotices']>, void, string | null>({
      query: ({ pageParam }) => `/bell${queryString({ after: pageParam, limit: 50 })}`,
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.next ?? undefined },
      providesTags: ['Bell'],
    }),
    countUnread: build.query<AnswerOf<E['countUnread']>, void>({ query: () => '/bell/unread', providesTags: ['Bell'] }),
    readNotices: build.mutation<AnswerOf<E['readNotices']>, BodyOf<E['readNotices']>>({
      query: (body) => ({ url: '/bell/read', method: 'POST', body }),
      invalidatesTags: ['Bell'],
    }),
    getBellChoices: build.query<AnswerOf<E['getBellChoices']>, void>({ query: () => '/bell/choices' }),
    setBellChoices: build.mutation<AnswerOf<E['setBellChoices']>, BodyOf<E['setBellChoices']>>({
      query: (body) => ({ url: '/bell/choices', method: 'PUT', body }),
    }),
  }),
});

export const {
  useListNoticesInfiniteQuery,
  useCountUnreadQuery,
  useReadNoticesMutation,
  useGetBellChoicesQuery,
  useSetBellChoicesMutation,
} = bellApi;
