import { endpoints, SESSION_COOKIE } from '@ladder/contract';
import { serialize } from 'cookie';
import type { Router } from 'express';
import type { Context } from '../context.ts';
import { command } from '../http/command.ts';
import { register } from '../http/register.ts';
import { reply } from '../http/reply.ts';
import { sessionToken } from '../session/person.ts';
import { changeOwnPassword, demoOffers, sessionOf, signIn, signOut } from '../session/session.ts';
import { setterOf } from '../settingsLog/settingsLog.ts';
import { endAbsence, listAbsences, setAbsence } from './absences.ts';
import { addPerson, changeAccount, listAccounts, listPeople } from './people.ts';
import { addTeam, listTeams, renameTeam } from './teams.ts';

export function peopleRoutes(router: Router, context: Context): void {
  register(router, context, endpoints.getSession, async ({ request }) =>
    reply(await sessionOf(context, sessionToken(request))),
  );
  register(router, context, endpoints.signIn, async ({ body, request }) => {
    const { token, expiresAt, session } = await signIn(context, body.email, body.password, request.ip ?? '');
    return reply(session, { 'Set-Cookie': sessionCookie(token, expiresAt, request.secure) });
  });
  register(router, context, endpoints.signOut, async ({ request }) => {
    await signOut(context, sessionToken(request));
    return reply(undefined, { 'Set-Cookie': sessionCookie('', 0, request.secure) });
  });
  register(router, context, endpoints.changeOwnPassword, async ({ body, person, request }) => {
    await changeOwnPassword(context, person, sessionToken(request), body, request.ip ?? '');
    return {};
  });
  register(router, context, endpoints.getOffers, async () => reply(await demoOffers(context)));
  register(router, context, endpoints.listPeople, async ({ query }) => reply(await listPeople(context, query)));
  register(router, context, endpoints.addPerson, (input) =>
    command(context, input, async (tx) => reply(await addPerson(tx, input.body, setterOf(context, input.person)))),
  );
  register(router, context, endpoints.listTeams, async ({ query }) => reply(await listTeams(context, query)));
  register(router, context, endpoints.listAccounts, async ({ query }) => reply(await listAccounts(context, query)));
  register(router, context, endpoints.changeAccount, async ({ params, body, person }) =>
    reply(await changeAccount(context, params.person, body, setterOf(context, person))),
  );
  register(router, context, endpoints.listAbsences, async () => reply(await listAbsences(context)));
  register(router, context, endpoints.setAbsence, (input) =>
    command(context, input, async (tx) =>
      reply(await setAbsence(context, tx, input.person, input.params.person, input.body)),
    ),
  );
  register(router, context, endpoints.endAbsence, (input) =>
    command(context, input, async (tx) => reply(await endAbsence(context, tx, input.person, input.params.person))),
  );
  register(router, context, endpoints.addTeam, (input) =>
    command(context, input, async (tx) => reply(await addTeam(tx, input.body.name, setterOf(context, input.person)))),
  );
  register(router, context, endpoints.renameTeam, async ({ params, body, person }) =>
    reply(await renameTeam(context, params.team, body.name, setterOf(context, person))),
  );
}

const sessionCookie = (token: string, expiresAt: number, secure: boolean): string =>
  serialize(SESSION_COOKIE, token, {
    httpOnly: true,
    sameSite: 'strict',
    path: '/',
    secure,
    expires: new Date(expiresAt),
  });
