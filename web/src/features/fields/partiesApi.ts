import type { endpoints } from '@ladder/contract';
import type { Values } from '@ladder/core';
import { type AnswerOf, api, PRESS, queryString } from '../../client/api.ts';

type E = typeof endpoints;

/** Customers and contacts: they are found, added and changed alike. */
const partiesApi = api.injectEndpoints({
  endpoints: (build) => ({
    findParties: build.query<AnswerOf<E['listCustomers']>, { kind: 'customers' | 'contacts'; find: string }>({
      query: ({ kind, find }) => `/${kind}${queryString({ find, limit: 20 })}`,
      providesTags: ['Party'],
    }),
    changeParty: build.mutation<unknown, { kind: 'customers' | 'contacts'; id: string; values: Values }>({
      query: ({ kind, id, values }) => ({ url: `/${kind}/${id}`, method: 'PATCH', body: { values } }),
      invalidatesTags: ['Party', 'Deal', 'Deals'],
    }),
    addParty: build.mutation<
      { id: string; name: string },
      { kind: 'customers' | 'contacts'; name: string; customer: string | null }
    >({
      query: ({ kind, name, customer }) => ({
        url: `/${kind}`,
        method: 'POST',
        body: { name, values: {}, ...(kind === 'contacts' ? { customer } : {}) },
        headers: PRESS,
      }),
      invalidatesTags: ['Party'],
    }),
  }),
});

export const { useFindPartiesQuery, useAddPartyMutation, useChangePartyMutation } = partiesApi;
