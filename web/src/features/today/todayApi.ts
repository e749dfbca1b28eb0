import type { endpoints } from '@ladder/contract';
import { type AnswerOf, api, type BodyOf, PRESS, queryString } from '../../client/api.ts';

type E = typeof endpoints;
export type Absence = AnswerOf<E['listAbsences']>['items'][number];
export type Today = AnswerOf<E['getToday']>;
export type DayEntry = Today['items'][number];
export type DayItem = DayEntry['item'];
export type DueCalendar = AnswerOf<E['getCalendar']>;
export type CalendarEntry = DueCalendar['items'][number];
export type DayGroup = DayEntry['group'];

/** Whose day, and in which order; the same names stand in the address of the page. */
export interface DayArguments {
  readonly person?: string;
  readonly team?: string;
  readonly order?: string;
}

const ASKED = ['person', 'team', 'order'] as const;

/** What the address of the page says of it. */
export const askedOf = (search: URLSearchParams): DayArguments =>
  Object.fromEntries(ASKED.flatMap((name) => (search.get(name) ? [[name, search.get(name)]] : [])));

export const todayApi = api.injectEndpoints({
  endpoints: (build) => ({
    getToday: build.infiniteQuery<Today, DayArguments, string | null>({
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.next ?? undefined },
      query: ({ queryArg, pageParam }) => `/today${queryString({ ...queryArg, after: pageParam })}`,
      providesTags: ['Today'],
    }),
    getCalendar: build.query<DueCalendar, DayArguments & { readonly from: string; readonly to: string }>({
      query: (asked) => `/today/calendar${queryString({ ...asked })}`,
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
    getFeed: build.query<AnswerOf<E['getFeed']>, void>({
      query: () => '/session/feed',
      providesTags: ['Feed'],
    }),
    makeFeed: build.mutation<AnswerOf<E['makeFeed']>, void>({
      query: () => ({ url: '/session/feed', method: 'POST' }),
      invalidatesTags: ['Feed'],
    }),
    revokeFeed: build.mutation<void, void>({
      query: () => ({ url: '/session/feed', method: 'DELETE' }),
      invalidatesTags: ['Feed'],
    }),
    listAbsences: build.query<AnswerOf<E['listAbsences']>, void>({
      query: () => '/absences',
      providesTags: ['People'],
    }),
    setAbsence: build.mutation<AnswerOf<E['setAbsence']>, { person: string; body: BodyOf<E['setAbsence']> }>({
      query: ({ person, body }) => ({ url: `/people/${person}/absence`, method: 'PUT', body, headers: PRESS }),
      invalidatesTags: ['People', 'Today'],
    }),
    endAbsence: build.mutation<AnswerOf<E['endAbsence']>, string>({
      query: (person) => ({ url: `/people/${person}/absence`, method: 'DELETE', headers: PRESS }),
      invalidatesTags: ['People', 'Today'],
    }),
    handOver: build.mutation<AnswerOf<E['handOver']>, BodyOf<E['handOver']>>({
      query: (body) => ({ url: '/today/hand-over', method: 'POST', body, headers: PRESS }),
      invalidatesTags: ['Today', 'Deal', 'Deals'],
    }),
  }),
});

export const {
  useGetTodayInfiniteQuery,
  useGetCalendarQuery,
  useCountLateQuery,
  useListDoneQuery,
  useHandOverMutation,
  useListAbsencesQuery,
  useSetAbsenceMutation,
  useEndAbsenceMutation,
  useGetFeedQuery,
  useMakeFeedMutation,
  useRevokeFeedMutation,
} = todayApi;
