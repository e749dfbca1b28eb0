import { calendars } from '../calendars.ts';
import { endpoint } from '../endpoint.ts';
import { id, object } from '../schema.ts';
import { ADMINISTRATOR } from './callers.ts';
import { paging, processParams } from './queries.ts';

/** Calendars, which processes share, and which of them a process goes by. */
export const calendarsEndpoints = {
  listCalendars: endpoint({
    id: 'listCalendars',
    method: 'get',
    path: '/calendars',
    summary: 'Calendars, by name',
    callers: ADMINISTRATOR,
    query: object(paging),
    status: 200,
    answer: calendars.page,
  }),
  addCalendar: endpoint({
    id: 'addCalendar',
    headers: ['Idempotency-Key'],
    method: 'post',
    path: '/calendars',
    summary: 'Add a calendar',
    callers: ADMINISTRATOR,
    body: calendars.written,
    status: 201,
    answer: calendars.calendar,
    problems: [409],
  }),
  calendarEffect: endpoint({
    id: 'calendarEffect',
    method: 'post',
    path: '/calendars/effect',
    summary: 'Which days of open deals a change of a calendar would move; it changes nothing',
    callers: ADMINISTRATOR,
    body: calendars.asked,
    heavy: 'preview',
    status: 200,
    answer: calendars.effect,
    problems: [404],
  }),
  changeCalendar: endpoint({
    id: 'changeCalendar',
    headers: ['Idempotency-Key'],
    long: 'yes',
    method: 'put',
    path: '/calendars/{calendar}',
    summary: 'Change a calendar, as it was seen; days ahead that are counted in working days are counted anew',
    callers: ADMINISTRATOR,
    params: object({ calendar: id() }),
    body: calendars.change,
    status: 200,
    answer: calendars.calendar,
    problems: [404, 409],
  }),
  chooseCalendar: endpoint({
    id: 'chooseCalendar',
    headers: ['Idempotency-Key'],
    long: 'yes',
    method: 'put',
    path: '/processes/{process}/calendar',
    summary: 'Let a process go by another calendar; days ahead that are counted in working days are counted anew',
    callers: ADMINISTRATOR,
    params: processParams,
    body: calendars.choice,
    status: 200,
    answer: calendars.calendar,
    problems: [404, 409],
  }),
};
