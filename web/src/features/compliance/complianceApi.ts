import type { endpoints } from '@ladder/contract';
import type { ProcessId, StageId } from '@ladder/core';
import { type AnswerOf, api, queryString } from '../../client/api.ts';

type E = typeof endpoints;
export type ComplianceSummary = AnswerOf<E['getCompliance']>;
export type FindingRow = AnswerOf<E['listFindings']>['items'][number];

interface MeasureFilters {
  readonly owner?: string;
  readonly team?: string;
}

const complianceApi = api.injectEndpoints({
  endpoints: (build) => ({
    getCompliance: build.query<ComplianceSummary, { process: ProcessId; filters: MeasureFilters }>({
      query: ({ process, filters }) => `/processes/${process}/compliance${queryString({ ...filters })}`,
      providesTags: ['Deals'],
    }),
    listFindings: build.infiniteQuery<
      AnswerOf<E['listFindings']>,
      { process: ProcessId; filters: MeasureFilters; stage?: StageId; kind?: string },
      string | null
    >({
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.next ?? undefined },
      query: ({ queryArg: { process, filters, stage, kind }, pageParam }) =>
        `/processes/${process}/findings${queryString({ ...filters, stage, kind, after: pageParam, limit: 25 })}`,
      providesTags: ['Deals'],
    }),
  }),
});

export const { useGetComplianceQuery, useListFindingsInfiniteQuery } = complianceApi;
