import type { endpoints, messages, TypeOf } from '@ladder/contract';
import type { DealId, MessageState } from '@ladder/core';
import { type AnswerOf, api, type BodyOf, PRESS, queryString } from '../../client/api.ts';
import { readAll } from '../../client/readAll.ts';

type E = typeof endpoints;
export type Template = TypeOf<typeof messages.template>;
export type Message = TypeOf<typeof messages.message>;
type Written = TypeOf<typeof messages.written>;

interface OfDeal {
  readonly deal: DealId;
  readonly message: string;
}

const at = ({ deal, message }: OfDeal): string => `/deals/${deal}/messages/${message}`;

const messagesApi = api.injectEndpoints({
  endpoints: (build) => ({
    listTemplates: build.query<AnswerOf<E['listTemplates']>, void>({
      queryFn: (_none, _api, _options, fetch) => readAll(fetch, '/message-templates'),
      providesTags: ['Templates'],
    }),
    addTemplate: build.mutation<Template, BodyOf<E['addTemplate']>>({
      query: (body) => ({ url: '/message-templates', method: 'POST', body, headers: PRESS }),
      invalidatesTags: ['Templates'],
    }),
    changeTemplate: build.mutation<Template, { id: string; body: BodyOf<E['changeTemplate']> }>({
      query: ({ id, body }) => ({ url: `/message-templates/${id}`, method: 'PUT', body, headers: PRESS }),
      invalidatesTags: ['Templates', 'Messages'],
    }),
    removeTemplate: build.mutation<void, string>({
      query: (id) => ({ url: `/message-templates/${id}`, method: 'DELETE', headers: PRESS }),
      invalidatesTags: ['Templates'],
    }),
    listMessages: build.infiniteQuery<AnswerOf<E['listMessages']>, MessageState | '', string | null>({
      query: ({ queryArg, pageParam }) =>
        `/messages${queryString({ state: queryArg || null, after: pageParam, limit: 50 })}`,
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.next ?? undefined },
      providesTags: ['Messages'],
    }),
    getStandIn: build.query<AnswerOf<E['getStandIn']>, void>({
      query: () => '/messages/stand-in',
      providesTags: ['Messages'],
    }),
    setStandIn: build.mutation<AnswerOf<E['setStandIn']>, boolean>({
      query: (fails) => ({ url: '/messages/stand-in', method: 'PUT', body: { fails } }),
      invalidatesTags: ['Messages'],
    }),
    listDealMessages: build.query<AnswerOf<E['listDealMessages']>, DealId>({
      query: (deal) => `/deals/${deal}/messages`,
      // What a result or an arrival asked for is made a moment later.
      providesTags: (_answer, _error, deal) => ['Messages', { type: 'Deal', id: deal }],
    }),
    draftMessage: build.query<AnswerOf<E['draftMessage']>, { deal: DealId; template: string }>({
      query: ({ deal, template }) => `/deals/${deal}/messages/draft${queryString({ template })}`,
    }),
    addMessage: build.mutation<Message, { deal: DealId; body: Written }>({
      query: ({ deal, body }) => ({ url: `/deals/${deal}/messages`, method: 'POST', body, headers: PRESS }),
      invalidatesTags: ['Messages'],
    }),
    confirmMessage: build.mutation<Message, OfDeal & { body: Written }>({
      query: ({ body, ...of }) => ({ url: `${at(of)}/confirmation`, method: 'PUT', body, headers: PRESS }),
      invalidatesTags: ['Messages'],
    }),
    dropMessage: build.mutation<Message, OfDeal>({
      query: (of) => ({ url: `${at(of)}/drop`, method: 'POST', headers: PRESS }),
      invalidatesTags: ['Messages'],
    }),
  }),
});

export const {
  useListTemplatesQuery,
  useAddTemplateMutation,
  useChangeTemplateMutation,
  useRemoveTemplateMutation,
  useListMessagesInfiniteQuery,
  useGetStandInQuery,
  useSetStandInMutation,
  useListDealMessagesQuery,
  useLazyDraftMessageQuery,
  useAddMessageMutation,
  useConfirmMessageMutation,
  useDropMessageMutation,
} = messagesApi;
