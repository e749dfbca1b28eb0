import type { endpoints } from '@ladder/contract';
import type { DealId } from '@ladder/core';
import { api, type BodyOf, PRESS } from '../../client/api.ts';
import { type ChangedDeal, changed, type DealDetail, showAnswer } from './dealsApi.ts';

type E = typeof endpoints;
export type Task = DealDetail['tasks'][number];

interface OfTask {
  readonly deal: DealId;
  readonly task: number;
}

const pathOf = ({ deal, task }: OfTask): string => `/deals/${deal}/tasks/${task}`;

const tasksApi = api.injectEndpoints({
  endpoints: (build) => ({
    addTask: build.mutation<ChangedDeal, { deal: DealId; body: BodyOf<E['addTask']> }>({
      query: ({ deal, body }) => ({ url: `/deals/${deal}/tasks`, method: 'POST', body, headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
    addTaskSet: build.mutation<ChangedDeal, { deal: DealId; set: string }>({
      query: ({ deal, set }) => ({ url: `/deals/${deal}/task-sets`, method: 'POST', body: { set }, headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
    endTask: build.mutation<ChangedDeal, OfTask & BodyOf<E['endTask']>>({
      query: ({ how, ...of }) => ({ url: `${pathOf(of)}/end`, method: 'PUT', body: { how }, headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
    reopenTask: build.mutation<ChangedDeal, OfTask>({
      query: (of) => ({ url: `${pathOf(of)}/end`, method: 'DELETE', headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
    putTaskOff: build.mutation<ChangedDeal, OfTask & { body: BodyOf<E['putTaskOff']> }>({
      query: ({ body, ...of }) => ({ url: `${pathOf(of)}/due`, method: 'PUT', body, headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
    passTask: build.mutation<ChangedDeal, OfTask & { body: BodyOf<E['passTask']> }>({
      query: ({ body, ...of }) => ({ url: `${pathOf(of)}/person`, method: 'PUT', body, headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
    renameTask: build.mutation<ChangedDeal, OfTask & { body: BodyOf<E['renameTask']> }>({
      query: ({ body, ...of }) => ({ url: `${pathOf(of)}/title`, method: 'PUT', body, headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
  }),
});

export const {
  useAddTaskMutation,
  useAddTaskSetMutation,
  useEndTaskMutation,
  useReopenTaskMutation,
  usePutTaskOffMutation,
  usePassTaskMutation,
  useRenameTaskMutation,
} = tasksApi;
