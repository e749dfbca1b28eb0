import type { endpoints, imports, TypeOf } from '@ladder/contract';
import type { ProcessId } from '@ladder/core';
import { type AnswerOf, api, PRESS, queryString } from '../../client/api.ts';

type E = typeof endpoints;
export type ImportView = TypeOf<typeof imports.summary>;
export type ImportPreview = TypeOf<typeof imports.preview>;
export type ImportSettings = TypeOf<typeof imports.settings>;
export type Uploaded = AnswerOf<E['uploadImport']>;

const importsApi = api.injectEndpoints({
  endpoints: (build) => ({
    listImports: build.infiniteQuery<AnswerOf<E['listImports']>, void, string | null>({
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.next ?? undefined },
      query: ({ pageParam }) => `/imports${queryString({ limit: 20, after: pageParam })}`,
      providesTags: ['Import'],
    }),
    getImport: build.query<ImportView, string>({ query: (id) => `/imports/${id}`, providesTags: ['Import'] }),
    uploadImport: build.mutation<Uploaded, { file: File; process: ProcessId }>({
      query: ({ file, process }) => ({
        url: `/imports${queryString({ fileName: file.name, process })}`,
        method: 'POST',
        body: file,
        headers: { 'Content-Type': 'text/csv', ...PRESS },
      }),
      invalidatesTags: ['Import'],
    }),
    previewImport: build.mutation<ImportPreview, { id: string; settings: ImportSettings }>({
      query: ({ id, settings }) => ({ url: `/imports/${id}/preview`, method: 'POST', body: settings }),
    }),
    runImport: build.mutation<ImportView, { id: string; settings: ImportSettings }>({
      query: ({ id, settings }) => ({ url: `/imports/${id}/run`, method: 'POST', body: settings, headers: PRESS }),
      invalidatesTags: ['Import', 'Work'],
    }),
    takeBackImport: build.mutation<ImportView, string>({
      query: (id) => ({ url: `/imports/${id}/take-back`, method: 'POST', headers: PRESS }),
      invalidatesTags: ['Import', 'Work'],
    }),
  }),
});

export const {
  useListImportsInfiniteQuery,
  useGetImportQuery,
  useUploadImportMutation,
  usePreviewImportMutation,
  useRunImportMutation,
  useTakeBackImportMutation,
} = importsApi;
