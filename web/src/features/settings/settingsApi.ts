import type { endpoints, people, rates, TypeOf } from '@ladder/contract';
import { type AnswerOf, AT_ONCE, api, type BodyOf, PRESS, queryString } from '../../client/api.ts';
import type { Work } from '../work/workApi.ts';

type E = typeof endpoints;
export type Account = TypeOf<typeof people.account>;
type AccountChange = TypeOf<typeof people.accountChange>;
export type Team = TypeOf<typeof people.team>;
export type Holdings = TypeOf<typeof people.holdings>;
type Rate = TypeOf<typeof rates.rate>;

const settingsApi = api.injectEndpoints({
  endpoints: (build) => ({
    listAccounts: build.infiniteQuery<AnswerOf<E['listAccounts']>, string, string | null>({
      query: ({ queryArg, pageParam }) => `/accounts${queryString({ find: queryArg, after: pageParam, limit: 50 })}`,
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.next ?? undefined },
      providesTags: ['People'],
    }),
    addPerson: build.mutation<AnswerOf<E['addPerson']>, BodyOf<E['addPerson']>>({
      // Not kept as a press: the browser would keep the password with it. The address is anyone's but once.
      query: (body) => ({ url: '/people', method: 'POST', body }),
      invalidatesTags: ['People'],
    }),
    changeAccount: build.mutation<Account, { id: string; change: AccountChange }>({
      query: ({ id, change }) => ({ url: `/accounts/${id}`, method: 'PATCH', body: change }),
      invalidatesTags: ['People', 'Session', 'Deal', 'Deals'],
    }),
    getHoldings: build.query<Holdings, string>({ query: (person) => `/accounts/${person}/holdings` }),
    leave: build.mutation<Work, { person: string; body: BodyOf<E['leave']> }>({
      query: ({ person, body }) => ({
        url: `/accounts/${person}/leaving`,
        method: 'POST',
        body,
        headers: { ...AT_ONCE, ...PRESS },
      }),
      invalidatesTags: ['Work', 'People'],
    }),
    addTeam: build.mutation<Team, string>({
      query: (name) => ({ url: '/teams', method: 'POST', body: { name }, headers: PRESS }),
      invalidatesTags: ['People'],
    }),
    renameTeam: build.mutation<Team, Team>({
      query: ({ id, name }) => ({ url: `/teams/${id}`, method: 'PATCH', body: { name } }),
      invalidatesTags: ['People', 'Deal', 'Deals'],
    }),
    listRates: build.infiniteQuery<AnswerOf<E['listRates']>, void, string | null>({
      query: ({ pageParam }) => `/rates${queryString({ after: pageParam, limit: 50 })}`,
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.next ?? undefined },
      providesTags: ['Rates'],
    }),
    listSettingsLog: build.infiniteQuery<AnswerOf<E['listSettingsLog']>, void, string | null>({
      query: ({ pageParam }) => `/settings/log${queryString({ after: pageParam, limit: 50 })}`,
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.next ?? undefined },
    }),
    setRate: build.mutation<Work, Rate>({
      query: (body) => ({ url: '/rates', method: 'PUT', body, headers: { ...AT_ONCE, ...PRESS } }),
      invalidatesTags: ['Work'],
    }),
  }),
});

export const {
  useListAccountsInfiniteQuery,
  useAddPersonMutation,
  useChangeAccountMutation,
  useAddTeamMutation,
  useGetHoldingsQuery,
  useLeaveMutation,
  useRenameTeamMutation,
  useListRatesInfiniteQuery,
  useListSettingsLogInfiniteQuery,
  useSetRateMutation,
} = settingsApi;
