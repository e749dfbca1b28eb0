import { endpoint } from '../endpoint.ts';
import { people } from '../people.ts';
import { page } from '../schema.ts';
import { ADMINISTRATOR } from './callers.ts';
import { found } from './queries.ts';

/** Signing in, people and teams. */
export const peopleEndpoints = {
  getSession: endpoint({
    id: 'getSession',
    method: 'get',
    path: '/session',
    summary: 'Who is signed in',
    callers: 'anyone',
    status: 200,
    answer: people.session,
  }),
  signIn: endpoint({
    id: 'signIn',
    method: 'post',
    path: '/session',
    summary: 'Sign in',
    callers: 'anyone',
    body: people.signIn,
    status: 200,
    answer: people.session,
    problems: [401, 429],
  }),
  signOut: endpoint({
    id: 'signOut',
    method: 'delete',
    path: '/session',
    summary: 'Sign out',
    callers: 'signed_in',
    status: 204,
  }),
  getOffers: endpoint({
    id: 'getOffers',
    method: 'get',
    path: '/session/offers',
    summary: 'People of the demo company that may sign in with one click',
    callers: 'anyone',
    status: 200,
    answer: people.offers,
  }),
  listPeople: endpoint({
    id: 'listPeople',
    method: 'get',
    path: '/people',
    summary: 'People, by name',
    callers: 'signed_in',
    query: found,
    status: 200,
    answer: people.peoplePage,
  }),
  addPerson: endpoint({
    id: 'addPerson',
    method: 'post',
    path: '/people',
    summary: 'Add a person',
    callers: ADMINISTRATOR,
    body: people.newPerson,
    status: 201,
    answer: people.person,
    problems: [409],
  }),
  listTeams: endpoint({
    id: 'listTeams',
    method: 'get',
    path: '/teams',
    summary: 'Teams, by name',
    callers: 'signed_in',
    query: found,
    status: 200,
    answer: page(people.team),
  }),
  addTeam: endpoint({
    id: 'addTeam',
    method: 'post',
    path: '/teams',
    summary: 'Add a team',
    callers: ADMINISTRATOR,
    body: people.newTeam,
    status: 201,
    answer: people.team,
    problems: [409],
  }),
};
