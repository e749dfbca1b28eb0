import type { endpoints } from '@ladder/contract';
import type { ProcessId } from '@ladder/core';
import { type AnswerOf, api, queryString } from '../../client/api.ts';

export type Movement = AnswerOf<(typeof endpoints)['getMovement']>;

interface MovementArguments {
  readonly process: ProcessId;
  readonly from: string;
  /** The day it is told of; today where it is null. */
  readonly to: string | null;
  readonly known: string | null;
  readonly owner?: string;
  readonly team?: string;
}

const movementApi = api.injectEndpoints({
  endpoints: (build) => ({
    getMovement: build.query<Movement, MovementArguments>({
      query: ({ process, ...filters }) => `/processes/${process}/movement${queryString({ ...filters })}`,
      providesTags: ['Deals'],
    }),
  }),
});

export const { useGetMovementQuery } = movementApi;
