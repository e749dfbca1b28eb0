import type { endpoints } from '@ladder/contract';
import { type AnswerOf, api, type BodyOf } from '../../../client/api.ts';

type E = typeof endpoints;
type Dismissals = AnswerOf<E['listDismissals']>;

const checkApi = api.injectEndpoints({
  endpoints: (build) => ({
    getEvidence: build.query<AnswerOf<E['getDesignEvidence']>, string>({
      query: (process) => `/processes/${process}/evidence`,
    }),
    getDismissals: build.query<Dismissals, string>({
      query: (process) => `/processes/${process}/dismissals`,
      providesTags: ['Dismissals'],
    }),
    dismissRemark: build.mutation<Dismissals, { process: string; body: BodyOf<E['dismissRemark']> }>({
      query: ({ process, body }) => ({ url: `/processes/${process}/dismissals`, method: 'PUT', body }),
      invalidatesTags: ['Dismissals'],
    }),
    countRemarks: build.query<AnswerOf<E['countRemarks']>, void>({
      query: () => '/design-check',
      providesTags: ['Process', 'Draft', 'Fields', 'People'],
      keepUnusedDataFor: 0,
    }),
  }),
});

export const { useGetEvidenceQuery, useGetDismissalsQuery, useDismissRemarkMutation, useCountRemarksQuery } = checkApi;
