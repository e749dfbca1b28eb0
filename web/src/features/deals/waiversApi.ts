import type { endpoints } from '@ladder/contract';
import type { DealId } from '@ladder/core';
import { type AnswerOf, api, type BodyOf, PRESS } from '../../client/api.ts';
import { type ChangedDeal, changed, type DealDetail, showAnswer } from './dealsApi.ts';

type E = typeof endpoints;
export type Deciding = AnswerOf<E['getWaiver']>;
export type Waiver = DealDetail['waivers'][number];

interface OfRequest {
  readonly deal: DealId;
  readonly request: number;
}

const pathOf = ({ deal, request }: OfRequest): string => `/deals/${deal}/waivers/${request}`;

const waiversApi = api.injectEndpoints({
  endpoints: (build) => ({
    getWaiver: build.query<AnswerOf<E['getWaiver']>, OfRequest>({
      query: pathOf,
      providesTags: (_answer, _error, { deal }) => [{ type: 'Deal', id: deal }],
    }),
    askWaiver: build.mutation<ChangedDeal, { deal: DealId; body: BodyOf<E['askWaiver']> }>({
      query: ({ deal, body }) => ({ url: `/deals/${deal}/waivers`, method: 'POST', body, headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
    decideWaiver: build.mutation<ChangedDeal, OfRequest & { body: BodyOf<E['decideWaiver']> }>({
      query: ({ body, ...of }) => ({ url: `${pathOf(of)}/decision`, method: 'PUT', body, headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
    withdrawWaiver: build.mutation<ChangedDeal, OfRequest>({
      query: (of) => ({ url: pathOf(of), method: 'DELETE', headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
    revokeWaiver: build.mutation<ChangedDeal, OfRequest & { body: BodyOf<E['revokeWaiver']> }>({
      query: ({ body, ...of }) => ({ url: `${pathOf(of)}/revoke`, method: 'POST', body, headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
  }),
});

export const {
  useGetWaiverQuery,
  useAskWaiverMutation,
  useDecideWaiverMutation,
  useWithdrawWaiverMutation,
  useRevokeWaiverMutation,
} = waiversApi;
