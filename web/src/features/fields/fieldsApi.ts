import type { endpoints } from '@ladder/contract';
import { type AnswerOf, api } from '../../client/api.ts';
import { readAll } from '../../client/readAll.ts';

type E = typeof endpoints;

const fieldsApi = api.injectEndpoints({
  endpoints: (build) => ({
    /** The whole catalogue. */
    getFields: build.query<AnswerOf<E['listFields']>, void>({
      queryFn: (_none, _api, _options, fetch) => readAll(fetch, '/fields'),
      providesTags: ['Fields'],
    }),
  }),
});

export const { useGetFieldsQuery } = fieldsApi;
