import type { deal as dealContract, endpoints, lanes, TypeOf } from '@ladder/contract';
import type { DealId, MoveTarget, ProcessId, StageId } from '@ladder/core';
import { type AnswerOf, api, type BodyOf, PRESS, queryString } from '../../client/api.ts';
import { type DealSetting, knownSettings, rememberSetting, settingOf } from './knownSettings.ts';
import { rememberOwnRevision } from './ownRevisions.ts';

type E = typeof endpoints;
/** A deal as a command answers with it. */
export type ChangedDeal = TypeOf<typeof dealContract.detail>;
/** A deal in its setting, as pages show it. */
export type DealDetail = ChangedDeal & DealSetting;
export type DealCard = TypeOf<typeof dealContract.card>;
export type Verdict = TypeOf<typeof dealContract.verdict>;
export type VerdictItem = Verdict['items'][number];
export type StepAtHand = DealDetail['stepsAtHand'][number];
export type StepDone = DealDetail['stepsDone'][number];
export type JournalEntry = TypeOf<typeof dealContract.journalEntry>;
export type Lanes = TypeOf<typeof lanes>;
export type Lane = Lanes['stages'][number];
export type LaneOutcome = Lanes['outcomes'][number];
type Page = AnswerOf<E['listDeals']>;

/** How lists and lanes are narrowed; the same names stand in the address of the page. */
export interface DealFilters {
  readonly owner?: string;
  readonly team?: string;
  readonly standing?: string;
  readonly closeBefore?: string;
  readonly pastTarget?: string;
}

const FILTERS = ['owner', 'team', 'standing', 'closeBefore', 'pastTarget'];

/** What an address says of how they are narrowed. */
export const filtersOf = (search: URLSearchParams): DealFilters =>
  Object.fromEntries(FILTERS.flatMap((name) => (search.get(name) ? [[name, search.get(name)]] : [])));

/** How an address shows deals: what is looked for as a table. */
export const viewIn = (search: URLSearchParams): 'lanes' | 'table' =>
  search.get('find') || search.get('view') === 'table' ? 'table' : 'lanes';

interface LanesArguments {
  readonly process: string;
  readonly filters: DealFilters;
  /** The past day that they are told of, and whether by what was known then. */
  readonly on?: string;
  readonly known?: string;
}

/** The lanes that an address asks for; beside the table, which lists deals as they are, they are told of today. */
export function lanesAskedFor(process: string, search: URLSearchParams): LanesArguments {
  const on = viewIn(search) === 'lanes' ? search.get('on') : null;
  const known = on && search.get('known');
  return { process, filters: filtersOf(search), ...(on ? { on } : {}), ...(known ? { known } : {}) };
}

interface ListArguments extends DealFilters {
  readonly process?: ProcessId;
  readonly stage?: StageId;
  readonly find?: string;
  readonly status?: string;
  readonly ageFrom?: number;
  readonly ageTo?: number;
  readonly limit?: number;
}

interface MoveArguments {
  readonly deal: DealId;
  readonly body: BodyOf<E['moveDeal']>;
}

interface RunArguments<Id extends 'takeResult' | 'takeResultBack' | 'putStepOff' | 'passStep'> {
  readonly deal: DealId;
  /** Which of the deal's runs of steps. */
  readonly run: number;
  readonly body: BodyOf<E[Id]>;
}

const targetQuery = (target: MoveTarget): string => queryString({ ...target });

/** After a change everything that counts deals is out of date. */
export const changed = (id: string) => [
  { type: 'Deal' as const, id },
  { type: 'Journal' as const, id },
  'Deals' as const,
  'Today' as const,
];

interface Started {
  readonly dispatch: (action: never) => unknown;
  readonly queryFulfilled: Promise<{ data: ChangedDeal | { readonly deal: ChangedDeal } }>;
}

function inSetting(deal: ChangedDeal): DealDetail | null {
  const setting = settingOf(deal.setting.id);
  return setting ? { ...deal, ...setting } : null;
}

function toDetail(deal: ChangedDeal): DealDetail {
  const { id, told } = deal.setting;
  if (told) rememberSetting(id, told);
  const detail = inSetting(deal);
  if (!detail) throw new Error(`The setting of deal ${deal.id} was not told`);
  return detail;
}

/** What was asked before one's own last change and is answered after it must not bring back the deal as it was. */
const newer = (shown: DealDetail, answer: DealDetail): DealDetail =>
  answer.revision < shown.revision ? shown : answer;

/**
 * Shows what a change answered at once, so that the next change is made from it and not from what was there before. Where
 * the deal came into another setting meanwhile, the page waits for that.
 */
export async function showAnswer(_argument: unknown, { dispatch, queryFulfilled }: Started): Promise<void> {
  const answer = await queryFulfilled.catch(() => null);
  if (!answer) return;
  const changed = 'deal' in answer.data ? answer.data.deal : answer.data;
  rememberOwnRevision(changed.id, changed.revision);
  const deal = inSetting(changed);
  if (!deal) return;
  dispatch(dealsApi.util.updateQueryData('getDeal', deal.id, (shown) => newer(shown, deal)) as never);
}

export const dealsApi = api.injectEndpoints({
  endpoints: (build) => ({
    getLanes: build.query<Lanes, LanesArguments>({
      query: ({ process, filters, on, known }) =>
        `/processes/${encodeURIComponent(process)}/lanes${queryString({ ...filters, on, known })}`,
      providesTags: ['Deals'],
    }),
    /** The lanes of the process of most open deals; they are then those of that process. */
    getFirstLanes: build.query<Lanes, DealFilters>({
      query: (filters) => `/lanes${queryString({ ...filters })}`,
      onQueryStarted: async (filters, { dispatch, queryFulfilled }) => {
        const answer = await queryFulfilled.catch(() => null);
        if (!answer) return;
        const { process } = answer.data;
        await dispatch(dealsApi.util.upsertQueryData('getLanes', { process: process.id, filters }, answer.data));
      },
    }),
    listDeals: build.infiniteQuery<Page, ListArguments, string | null>({
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.next ?? undefined },
      query: ({ queryArg, pageParam }) => `/deals${queryString({ ...queryArg, after: pageParam })}`,
      providesTags: ['Deals'],
    }),
    getDeal: build.query<DealDetail, string>({
      query: (id) => `/deals/${id}${queryString({ known: knownSettings() })}`,
      transformResponse: toDetail,
      merge: newer,
      providesTags: (_answer, _error, id) => [{ type: 'Deal', id }],
    }),
    previewMove: build.query<Verdict, { deal: DealId; target: MoveTarget }>({
      query: ({ deal, target }) => `/deals/${deal}/gate${targetQuery(target)}`,
      providesTags: (_answer, _error, { deal }) => [{ type: 'Deal', id: deal }],
    }),
    listJournal: build.infiniteQuery<AnswerOf<E['listJournal']>, string, string | null>({
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.next ?? undefined },
      query: ({ queryArg, pageParam }) => `/deals/${queryArg}/journal${queryString({ after: pageParam, limit: 30 })}`,
      providesTags: (_answer, _error, id) => [{ type: 'Journal', id }],
    }),
    addDeal: build.mutation<ChangedDeal, BodyOf<E['addDeal']>>({
      query: (body) => ({ url: '/deals', method: 'POST', body, headers: PRESS }),
      invalidatesTags: (_answer, _error, { from }) => ['Process', ...(from ? changed(from) : ['Deals' as const])],
    }),
    reassignDeals: build.mutation<AnswerOf<E['reassignDeals']>, BodyOf<E['reassignDeals']>>({
      query: (body) => ({ url: '/deals/reassign', method: 'POST', body, headers: PRESS }),
      invalidatesTags: (_answer, _error, { deals }) => ['Process', ...deals.flatMap(changed)],
    }),
    editDeal: build.mutation<ChangedDeal, { deal: DealId; body: BodyOf<E['editDeal']> }>({
      query: ({ deal, body }) => ({ url: `/deals/${deal}`, method: 'PATCH', body, headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
    tickItem: build.mutation<ChangedDeal, { deal: DealId; body: BodyOf<E['tickItem']> }>({
      query: ({ deal, body }) => ({ url: `/deals/${deal}/ticks`, method: 'POST', body, headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
    moveDeal: build.mutation<AnswerOf<E['moveDeal']>, MoveArguments>({
      query: ({ deal, body }) => ({ url: `/deals/${deal}/moves`, method: 'POST', body, headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
    takeResult: build.mutation<AnswerOf<E['takeResult']>, RunArguments<'takeResult'>>({
      query: ({ deal, run, body }) => ({
        url: `/deals/${deal}/steps/${run}/result`,
        method: 'POST',
        body,
        headers: PRESS,
      }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
    takeResultBack: build.mutation<ChangedDeal, RunArguments<'takeResultBack'>>({
      query: ({ deal, run, body }) => ({
        url: `/deals/${deal}/steps/${run}/take-back`,
        method: 'POST',
        body,
        headers: PRESS,
      }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
    putStepOff: build.mutation<ChangedDeal, RunArguments<'putStepOff'>>({
      query: ({ deal, run, body }) => ({ url: `/deals/${deal}/steps/${run}/due`, method: 'PUT', body, headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
    passStep: build.mutation<ChangedDeal, RunArguments<'passStep'>>({
      query: ({ deal, run, body }) => ({
        url: `/deals/${deal}/steps/${run}/person`,
        method: 'PUT',
        body,
        headers: PRESS,
      }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
    takeBackMove: build.mutation<ChangedDeal, { deal: DealId; body: BodyOf<E['takeBackMove']> }>({
      query: ({ deal, body }) => ({ url: `/deals/${deal}/moves/take-back`, method: 'POST', body, headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
    withdrawAttempt: build.mutation<ChangedDeal, string>({
      query: (deal) => ({ url: `/deals/${deal}/attempt`, method: 'DELETE', headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, deal) => changed(deal),
    }),
    changeFollowUp: build.mutation<ChangedDeal, { deal: DealId; body: BodyOf<E['changeFollowUp']> }>({
      query: ({ deal, body }) => ({ url: `/deals/${deal}/follow-up`, method: 'PUT', body, headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
    addActivity: build.mutation<ChangedDeal, { deal: DealId; body: BodyOf<E['addActivity']> }>({
      query: ({ deal, body }) => ({ url: `/deals/${deal}/activities`, method: 'POST', body, headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
    eraseText: build.mutation<ChangedDeal, { deal: DealId; seq: number }>({
      query: ({ deal, seq }) => ({ url: `/deals/${deal}/journal/${seq}/text`, method: 'DELETE', headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
    reopenDeal: build.mutation<ChangedDeal, { deal: DealId; body: BodyOf<E['reopenDeal']> }>({
      query: ({ deal, body }) => ({ url: `/deals/${deal}/reopen`, method: 'POST', body, headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal }) => changed(deal),
    }),
    voidDeal: build.mutation<ChangedDeal, { deal: DealId; body: BodyOf<E['voidDeal']> }>({
      query: ({ deal, body }) => ({ url: `/deals/${deal}/void`, method: 'POST', body, headers: PRESS }),
      onQueryStarted: showAnswer,
      invalidatesTags: (_answer, _error, { deal, body }) => [
        ...changed(deal),
        ...(body.duplicateOf ? changed(body.duplicateOf) : []),
      ],
    }),
  }),
});

export const {
  useGetFirstLanesQuery,
  useGetLanesQuery,
  useListDealsInfiniteQuery,
  useGetDealQuery,
  usePreviewMoveQuery,
  useListJournalInfiniteQuery,
  useAddDealMutation,
  useReassignDealsMutation,
  useEditDealMutation,
  useTickItemMutation,
  useMoveDealMutation,
  useTakeBackMoveMutation,
  useTakeResultMutation,
  useTakeResultBackMutation,
  usePutStepOffMutation,
  usePassStepMutation,
  useWithdrawAttemptMutation,
  useChangeFollowUpMutation,
  useAddActivityMutation,
  useEraseTextMutation,
  useReopenDealMutation,
  useVoidDealMutation,
} = dealsApi;
