import type { endpoints, imports, TypeOf } from '@ladder/contract';
import { type AnswerOf, api, changeHeaders, queryString } from '../../client/api.ts';

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
    uploadImport: build.mutation<Uploaded, { file: File; process: string }>({
      query: ({ file, process }) => ({
        url: `/imports${queryString({ fileName: file.name, process })}`,
        method: 'POST',
        body: file,
        headers: { ...changeHeaders(), 'Content-Type': 'text/csv' },
      }),
      invalidatesTags: ['Import'],
    }),
    previewImport: build.mutation<ImportPreview, { id: string; settings: ImportSettings }>({
      query: ({ id, settings }) => ({ url: `/imports/${id}/preview`, method: 'POST', body: settings }),
    }),
    runImport: build.mutation<ImportView, { id: string; settings: ImportSettings }>({
      query: ({ id, settings }) => ({ url: `/imports/${id}/run`, method: 'POST', body: settings }),
      invalidatesTags: ['Import'],
    }),
    takeBackImport: build.mutation<ImportView, string>({
      query: (id) => ({ url: `/imports/${id}/take-back`, method: 'POST' }),
      invalidatesTags: ['Import', 'Deals', 'Process'],
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
