import type { endpoints } from '@ladder/contract';
import type { DealId } from '@ladder/core';
import { type AnswerOf, api, PRESS } from '../../client/api.ts';
import { readAll } from '../../client/readAll.ts';

type E = typeof endpoints;
export type DocumentKind = AnswerOf<E['addDocumentKind']>;

const documentsApi = api.injectEndpoints({
  endpoints: (build) => ({
    getDocumentKinds: build.query<AnswerOf<E['listDocumentKinds']>, void>({
      queryFn: (_none, _api, _options, fetch) => readAll(fetch, '/document-kinds'),
      providesTags: ['Fields'],
    }),
    addDocumentKind: build.mutation<DocumentKind, string>({
      query: (name) => ({ url: '/document-kinds', method: 'POST', body: { name }, headers: PRESS }),
      invalidatesTags: ['Fields'],
    }),
    changeDocumentKind: build.mutation<DocumentKind, { id: string; change: { name?: string; withdrawn?: boolean } }>({
      query: ({ id, change }) => ({ url: `/document-kinds/${id}`, method: 'PATCH', body: change }),
      invalidatesTags: ['Fields', 'Deal'],
    }),
    removeDocument: build.mutation<AnswerOf<E['removeDocument']>, { deal: DealId; document: string }>({
      query: ({ deal, document }) => ({
        url: `/deals/${deal}/documents/${document}`,
        method: 'DELETE',
        headers: PRESS,
      }),
      invalidatesTags: (_answer, _error, { deal }) => [
        { type: 'Deal', id: deal },
        { type: 'Journal', id: deal },
        'Deals',
      ],
    }),
  }),
});

export const {
  useGetDocumentKindsQuery,
  useAddDocumentKindMutation,
  useChangeDocumentKindMutation,
  useRemoveDocumentMutation,
} = documentsApi;
