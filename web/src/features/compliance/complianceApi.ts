import type { endpoints } from '@ladder/contract';
import type { ProcessId, StageId } from '@ladder/core';
import { type AnswerOf, api, queryString } from '../../client/api.ts';
import { readAll } from '../../client/readAll.ts';

type E = typeof endpoints;
export type ComplianceSummary = AnswerOf<E['getCompliance']>;
export type FindingRow = AnswerOf<E['listFindings']>['items'][number];

export type StepWork = AnswerOf<E['getStepWork']>;
export type StepsDone = AnswerOf<E['listStepsDone']>['items'][number];
export type PastDue = AnswerOf<E['listPastDue']>['items'][number];
export type StepRunRow = AnswerOf<E['listStepRuns']>['items'][number];

/** More rows than this no file of the page on steps has; it is told then. */
export const MOST_IN_FILE = 10_000;

interface RunsArguments {
  readonly process: ProcessId;
  readonly filters: MeasureFilters;
  readonly from: string;
  readonly state: string;
  readonly step: string | null;
  readonly result: string | null;
  readonly person: string | null;
  readonly late: string | null;
}

interface DoneArguments {
  readonly process: ProcessId;
  readonly filters: MeasureFilters;
  readonly from: string;
}

interface MeasureFilters {
  readonly owner?: string;
  readonly team?: string;
}

interface SummaryArguments {
  readonly process: ProcessId;
  readonly filters: MeasureFilters;
  /** The past day that it is told of, and whether by what was known then. */
  readonly on: string | null;
  readonly known: string | null;
}

const complianceApi = api.injectEndpoints({
  endpoints: (build) => ({
    getCompliance: build.query<ComplianceSummary, SummaryArguments>({
      query: ({ process, filters, on, known }) =>
        `/processes/${process}/compliance${queryString({ ...filters, on, known })}`,
      providesTags: ['Deals'],
    }),
    getStepWork: build.query<StepWork, DoneArguments>({
      query: ({ process, from, filters }) => `/processes/${process}/work${queryString({ from, ...filters })}`,
      providesTags: ['Deals'],
    }),
    listStepsDone: build.infiniteQuery<AnswerOf<E['listStepsDone']>, DoneArguments, string | null>({
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.next ?? undefined },
      query: ({ queryArg: { process, filters, from }, pageParam }) =>
        `/processes/${process}/steps-done${queryString({ ...filters, from, after: pageParam, limit: 25 })}`,
      providesTags: ['Deals'],
    }),
    readStepsDone: build.query<AnswerOf<E['listStepsDone']>, DoneArguments>({
      queryFn: ({ process, filters, from }, _api, _options, fetch) =>
        readAll(fetch, `/processes/${process}/steps-done`, { ...filters, from }, MOST_IN_FILE),
    }),
    listPastDue: build.infiniteQuery<AnswerOf<E['listPastDue']>, MeasureFilters, string | null>({
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.next ?? undefined },
      query: ({ queryArg, pageParam }) => `/past-due${queryString({ ...queryArg, after: pageParam, limit: 25 })}`,
      providesTags: ['Deals'],
    }),
    readPastDue: build.query<AnswerOf<E['listPastDue']>, MeasureFilters>({
      queryFn: (filters, _api, _options, fetch) => readAll(fetch, '/past-due', { ...filters }, MOST_IN_FILE),
    }),
    listStepRuns: build.infiniteQuery<AnswerOf<E['listStepRuns']>, RunsArguments, string | null>({
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.next ?? undefined },
      query: ({ queryArg: { process, filters, ...query }, pageParam }) =>
        `/processes/${process}/step-runs${queryString({ ...filters, ...query, after: pageParam, limit: 25 })}`,
      providesTags: ['Deals'],
    }),
    /** All of them, for a file. */
    readStepRuns: build.query<AnswerOf<E['listStepRuns']>, RunsArguments>({
      queryFn: ({ process, filters, ...query }, _api, _options, fetch) =>
        readAll(fetch, `/processes/${process}/step-runs`, { ...filters, ...query }, MOST_IN_FILE),
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

export const {
  useGetComplianceQuery,
  useListFindingsInfiniteQuery,
  useGetStepWorkQuery,
  useListStepsDoneInfiniteQuery,
  useLazyReadStepsDoneQuery,
  useListPastDueInfiniteQuery,
  useLazyReadPastDueQuery,
  useListStepRunsInfiniteQuery,
  useLazyReadStepRunsQuery,
} = complianceApi;
