import type { calendars, endpoints, TypeOf } from '@ladder/contract';
import { AT_ONCE, api, type BodyOf, PRESS } from '../../client/api.ts';
import { readAll } from '../../client/readAll.ts';
import type { Work } from '../work/workApi.ts';

type E = typeof endpoints;
export type WorkingCalendar = TypeOf<typeof calendars.calendar>;
export type WrittenCalendar = TypeOf<typeof calendars.written>;
export type AskedChange = TypeOf<typeof calendars.asked>;
export type CalendarEffect = TypeOf<typeof calendars.effect>;

const calendarsApi = api.injectEndpoints({
  endpoints: (build) => ({
    getCalendars: build.query<TypeOf<typeof calendars.page>, void>({
      queryFn: (_none, _api, _options, fetch) => readAll(fetch, '/calendars'),
      providesTags: ['Calendars'],
    }),
    addCalendar: build.mutation<WorkingCalendar, WrittenCalendar>({
      query: (body) => ({ url: '/calendars', method: 'POST', body, headers: PRESS }),
      invalidatesTags: ['Calendars'],
    }),
    /** Asked anew each time: deals change meanwhile. */
    getCalendarEffect: build.query<CalendarEffect, AskedChange>({
      query: (body) => ({ url: '/calendars/effect', method: 'POST', body }),
      keepUnusedDataFor: 0,
    }),
    changeCalendar: build.mutation<Work, { id: string; body: BodyOf<E['changeCalendar']> }>({
      query: ({ id, body }) => ({ url: `/calendars/${id}`, method: 'PUT', body, headers: { ...AT_ONCE, ...PRESS } }),
      invalidatesTags: ['Work'],
    }),
    chooseCalendar: build.mutation<Work, { process: string; body: BodyOf<E['chooseCalendar']> }>({
      query: ({ process, body }) => ({
        url: `/processes/${process}/calendar`,
        method: 'PUT',
        body,
        headers: { ...AT_ONCE, ...PRESS },
      }),
      invalidatesTags: ['Work'],
    }),
  }),
});

export const {
  useGetCalendarsQuery,
  useAddCalendarMutation,
  useGetCalendarEffectQuery,
  useChangeCalendarMutation,
  useChooseCalendarMutation,
} = calendarsApi;
