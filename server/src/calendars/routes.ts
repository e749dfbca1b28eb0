import { endpoints } from '@ladder/contract';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { command } from '../http/command.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { longCommand } from '../longWork/startWork.ts';
import { setterOf } from '../settingsLog/settingsLog.ts';
import { calendarToChange, calendarToChoose } from './recountWork.ts';
import { addCalendar, calendarEffect, getCalendar, listCalendars } from './service.ts';

export function calendarRoutes(router: Router, context: Context): void {
  const present = (id: string) => getCalendar(context.dataSource, id);
  register(router, context, endpoints.listCalendars, async ({ query }) => reply(await listCalendars(context, query)));
  register(router, context, endpoints.addCalendar, (input) =>
    command(context, input, async (tx) =>
      reply(await addCalendar(context, tx, input.body, setterOf(context, input.person))),
    ),
  );
  register(router, context, endpoints.calendarEffect, async ({ body }) => reply(await calendarEffect(context, body)));
  register(router, context, endpoints.changeCalendar, (input) =>
    longCommand(
      context,
      input,
      (tx) => calendarToChange(tx, input.params.calendar, input.body),
      () => present(input.params.calendar),
    ),
  );
  register(router, context, endpoints.chooseCalendar, (input) =>
    longCommand(
      context,
      input,
      (tx) => calendarToChoose(tx, input.params.process, input.body),
      () => present(input.body.calendar),
    ),
  );
}
