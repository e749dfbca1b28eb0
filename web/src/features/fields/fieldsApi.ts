import type { endpoints, facts, TypeOf } from '@ladder/contract';
import type { Field } from '@ladder/core';
import { type AnswerOf, AT_ONCE, api, type BodyOf, PRESS, queryString } from '../../client/api.ts';
import { readAll } from '../../client/readAll.ts';
import type { Work } from '../work/workApi.ts';

type E = typeof endpoints;
type UsesPage = TypeOf<typeof facts.fieldUsesPage>;
export type FieldUses = UsesPage['items'][number];
export type Example = TypeOf<typeof facts.examples>['items'][number];
export type FieldChange = BodyOf<E['changeField']>;

const fieldsApi = api.injectEndpoints({
  endpoints: (build) => ({
    /** The whole catalogue. */
    getFields: build.query<AnswerOf<E['listFields']>, void>({
      queryFn: (_none, _api, _options, fetch) => readAll(fetch, '/fields'),
      providesTags: ['Fields'],
    }),
    /** Where each field is used, and how often it is filled. */
    getFieldUses: build.query<UsesPage, void>({
      queryFn: (_none, _api, _options, fetch) => readAll(fetch, '/fields/uses'),
      providesTags: ['FieldUses'],
    }),
    addField: build.mutation<AnswerOf<E['addField']>, BodyOf<E['addField']>>({
      query: (body) => ({ url: '/fields', method: 'POST', body, headers: PRESS }),
      // A draft is read with the catalogue that it can ask for.
      invalidatesTags: ['Fields', 'FieldUses', 'Draft'],
    }),
    changeField: build.mutation<Field, { id: string; body: FieldChange }>({
      query: ({ id, body }) => ({ url: `/fields/${id}`, method: 'PATCH', body }),
      invalidatesTags: ['Fields', 'FieldUses', 'Draft'],
    }),
    setFormula: build.mutation<Work, { id: string; body: BodyOf<E['setFormula']> }>({
      query: ({ id, body }) => ({
        url: `/fields/${id}/formula`,
        method: 'PUT',
        body,
        headers: { ...AT_ONCE, ...PRESS },
      }),
      invalidatesTags: ['Work'],
    }),
    mapChoice: build.mutation<Work, { id: string; body: BodyOf<E['mapChoice']> }>({
      query: ({ id, body }) => ({
        url: `/fields/${id}/mapping`,
        method: 'POST',
        body,
        headers: { ...AT_ONCE, ...PRESS },
      }),
      invalidatesTags: ['Work'],
    }),
    listExamples: build.query<AnswerOf<E['listExamples']>, { holder: Field['holder']; find: string; filled: string }>({
      query: (query) => `/fields/examples${queryString(query)}`,
    }),
  }),
});

export const {
  useGetFieldsQuery,
  useGetFieldUsesQuery,
  useAddFieldMutation,
  useChangeFieldMutation,
  useSetFormulaMutation,
  useMapChoiceMutation,
  useListExamplesQuery,
} = fieldsApi;
