import type { endpoints } from '@ladder/contract';
import { type AnswerOf, api, type BodyOf, rememberToken, type Session } from '../../client/api.ts';
import { readAll } from '../../client/readAll.ts';
import { sessionBegun } from '../../client/sessionSlice.ts';

type E = typeof endpoints;

export const sessionApi = api.injectEndpoints({
  endpoints: (build) => ({
    getSession: build.query<Session, void>({
      query: () => '/session',
      providesTags: ['Session'],
      onQueryStarted: async (_none, { queryFulfilled }) => {
        const answer = await queryFulfilled.catch(() => null);
        if (answer) rememberToken(answer.data.csrf);
      },
    }),
    getOffers: build.query<AnswerOf<E['getOffers']>, void>({ query: () => '/session/offers' }),
    signIn: build.mutation<Session, BodyOf<E['signIn']>>({
      query: (body) => ({ url: '/session', method: 'POST', body }),
      invalidatesTags: (answer) => (answer ? ['Session'] : []),
      onQueryStarted: async (_body, { dispatch, queryFulfilled }) => {
        const answer = await queryFulfilled.catch(() => null);
        if (!answer) return;
        rememberToken(answer.data.csrf);
        dispatch(sessionBegun());
      },
    }),
    changeOwnPassword: build.mutation<void, BodyOf<E['changeOwnPassword']>>({
      query: (body) => ({ url: '/session/password', method: 'PUT', body }),
    }),
    signOut: build.mutation<void, void>({
      query: () => ({ url: '/session', method: 'DELETE' }),
      invalidatesTags: ['Session'],
    }),
    getPeople: build.query<AnswerOf<E['listPeople']>, void>({
      queryFn: (_none, _api, _options, fetch) => readAll(fetch, '/people'),
      providesTags: ['People'],
    }),
    getTeams: build.query<AnswerOf<E['listTeams']>, void>({
      queryFn: (_none, _api, _options, fetch) => readAll(fetch, '/teams'),
      providesTags: ['People'],
    }),
  }),
});

export const {
  useGetSessionQuery,
  useGetOffersQuery,
  useSignInMutation,
  useSignOutMutation,
  useChangeOwnPasswordMutation,
  useGetPeopleQuery,
  useGetTeamsQuery,
} = sessionApi;
