import type { endpoints, processes, TypeOf } from '@ladder/contract';
import type { ProcessDocument, ProcessFile, ProcessId } from '@ladder/core';
import { type AnswerOf, AT_ONCE, api, type BodyOf, PRESS, queryString } from '../../client/api.ts';
import { readAll } from '../../client/readAll.ts';
import type { Work } from '../work/workApi.ts';

type E = typeof endpoints;
export type ProcessDetail = TypeOf<typeof processes.detail>;
export type ProcessSummary = TypeOf<typeof processes.summary>;
export type Draft = TypeOf<typeof processes.draft>;
export type PublishPreview = TypeOf<typeof processes.preview>;

const tag = (revision: number): Record<string, string> => ({ 'If-Match': `"${revision}"` });

export const processesApi = api.injectEndpoints({
  endpoints: (build) => ({
    listProcesses: build.query<AnswerOf<E['listProcesses']>, void>({
      queryFn: (_none, _api, _options, fetch) => readAll(fetch, '/processes'),
      providesTags: ['Process'],
    }),
    getProcess: build.query<ProcessDetail, string>({ query: (id) => `/processes/${id}`, providesTags: ['Process'] }),
    addProcess: build.mutation<ProcessDetail, BodyOf<E['addProcess']>>({
      query: (body) => ({ url: '/processes', method: 'POST', body, headers: PRESS }),
      invalidatesTags: ['Process', 'Fields'],
    }),
    changeProcess: build.mutation<ProcessDetail, { id: string; body: BodyOf<E['changeProcess']> }>({
      query: ({ id, body }) => ({ url: `/processes/${id}`, method: 'PATCH', body }),
      invalidatesTags: ['Process'],
    }),
    listProcessLog: build.infiniteQuery<AnswerOf<E['listProcessLog']>, ProcessId, string | null>({
      query: ({ queryArg, pageParam }) => `/processes/${queryArg}/log${queryString({ after: pageParam, limit: 20 })}`,
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.next ?? undefined },
    }),
    changeHouseRules: build.mutation<Work, { id: string; houseRules: ProcessDetail['houseRules'] }>({
      query: ({ id, houseRules }) => ({
        url: `/processes/${id}`,
        method: 'PATCH',
        body: { houseRules },
        headers: { ...AT_ONCE, ...PRESS },
      }),
      invalidatesTags: ['Work'],
    }),
    planFile: build.mutation<AnswerOf<E['planProcessFile']>, ProcessFile>({
      query: (file) => ({ url: '/process-files/plan', method: 'POST', body: { file } }),
    }),
    getDraft: build.query<Draft, string>({ query: (id) => `/processes/${id}/draft`, providesTags: ['Draft'] }),
    getVersion: build.query<AnswerOf<E['getVersion']>, { id: string; number: number }>({
      query: ({ id, number }) => `/processes/${id}/versions/${number}`,
    }),
    beginDraft: build.mutation<Draft, { id: string; from?: number }>({
      query: ({ id, from }) => ({
        url: `/processes/${id}/draft`,
        method: 'POST',
        body: from === undefined ? {} : { from },
        headers: PRESS,
      }),
      invalidatesTags: ['Process', 'Draft'],
    }),
    saveDraft: build.mutation<Draft, { id: string; document: ProcessDocument; revision: number }>({
      query: ({ id, document, revision }) => ({
        url: `/processes/${id}/draft`,
        method: 'PUT',
        body: { document },
        headers: tag(revision),
      }),
    }),
    tellPresence: build.mutation<AnswerOf<E['tellPresence']>, string>({
      query: (id) => ({ url: `/processes/${id}/draft/presence`, method: 'PUT' }),
    }),
    dropDraft: build.mutation<void, string>({
      query: (id) => ({ url: `/processes/${id}/draft`, method: 'DELETE' }),
      invalidatesTags: ['Process', 'Draft'],
    }),
    previewPublish: build.query<PublishPreview, string>({
      query: (id) => `/processes/${id}/draft/preview`,
      keepUnusedDataFor: 0,
    }),
    publish: build.mutation<Work, { id: string; body: BodyOf<E['publish']>; revision: number }>({
      query: ({ id, body, revision }) => ({
        url: `/processes/${id}/draft/publish`,
        method: 'POST',
        body,
        headers: { ...tag(revision), ...AT_ONCE, ...PRESS },
      }),
      invalidatesTags: ['Work'],
    }),
  }),
});

export const {
  useListProcessLogInfiniteQuery,
  useListProcessesQuery,
  useGetProcessQuery,
  useAddProcessMutation,
  useChangeProcessMutation,
  useChangeHouseRulesMutation,
  usePlanFileMutation,
  useGetDraftQuery,
  useGetVersionQuery,
  useBeginDraftMutation,
  useSaveDraftMutation,
  useTellPresenceMutation,
  useDropDraftMutation,
  usePreviewPublishQuery,
  usePublishMutation,
} = processesApi;
