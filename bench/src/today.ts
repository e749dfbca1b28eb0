import { DEMO_PASSWORD } from '@ladder/contract';
import pg from 'pg';
import { type BenchBook, onCopies } from './book/benchBook.ts';
import { Caller } from './load/caller.ts';
import { inTurns, tellRatios } from './load/inTurns.ts';
import { serveOurs } from './load/processes.ts';

/*
 * A day over HTTP, of a seller, of their team for its manager, and the month of both, beside the plainest statement that reads
 * the open deals of the team. People grow with the book, as they do: each owns a hundred open deals, eight are a team.
 */

const SELLER = 'seller0@grown.example';
const MANAGER = 'tomas@hollin-marsh.example';
const DEALS_EACH = 100;
const TEAM_SIZE = 8;
const PLAIN = `select count(*), sum(value_minor) from deals where team_id = $1 and status = 'open'`;
const MONTH = 'from=2026-11-01&to=2026-11-30';

async function measureBook({ serverUrl, ownerUrl, openDeals }: BenchBook): Promise<void> {
  const client = new pg.Client({ connectionString: ownerUrl, options: '-c jit=off' });
  await client.connect();
  const team = await shareOut(client, openDeals);
  await client.query('vacuum analyze');
  const server = await serveOurs(serverUrl);
  const [seller, manager] = [new Caller(server.url), new Caller(server.url)];
  await seller.signIn(SELLER, DEMO_PASSWORD);
  await manager.signIn(MANAGER, DEMO_PASSWORD);
  const rates = await inTurns([
    { name: 'plain', run: () => client.query(PLAIN, [team]) },
    { name: 'today of a seller', run: () => seller.read('/api/v1/today?limit=50') },
    { name: 'what is late', run: () => seller.read('/api/v1/today/late') },
    { name: 'month of a seller', run: () => seller.read(`/api/v1/today/calendar?${MONTH}`) },
    { name: 'today of a team', run: () => manager.read(`/api/v1/today?limit=50&team=${team}`) },
    { name: 'month of a team', run: () => manager.read(`/api/v1/today/calendar?${MONTH}&team=${team}`) },
  ]);
  tellRatios(`today at ${openDeals}`, rates, 'plain');
  for (const caller of [seller, manager]) caller.close();
  await server.stop();
  await client.end();
}

/** Gives the deals out to as many people as own them; gives the first of their teams, in which the seller is that is measured. */
async function shareOut(client: pg.Client, openDeals: number): Promise<string> {
  const sellers = Math.round(openDeals / DEALS_EACH);
  const teams = Math.ceil(sellers / TEAM_SIZE);
  await client.query(
    `create temp table grown (place int primary key, person uuid, team uuid);
     create temp table grown_teams (place int primary key, team uuid);
     insert into grown_teams select n, gen_random_uuid() from generate_series(0, ${teams - 1}) n;
     insert into teams (id, name, name_fold) select team, 'Team ' || place, 'team ' || place from grown_teams;
     insert into grown select n, gen_random_uuid(), t.team
       from generate_series(0, ${sellers - 1}) n join grown_teams t on t.place = n / ${TEAM_SIZE};
     insert into people (id, name, email, email_fold, role, password_hash)
       select person, 'Seller ' || place, 'seller' || place || '@grown.example', 'seller' || place || '@grown.example', 'seller', (select password_hash from people where email = '${MANAGER}') from grown;
     insert into team_members (team_id, person_id) select team, person from grown;
     insert into team_members (team_id, person_id) select team, (select id from people where email = '${MANAGER}') from grown_teams where place = 0;
     create temp table given as select d.id, d.owner_id as before, g.person, g.team from deals d
       join grown g on g.place = abs(hashtextextended(d.id::text, 0)) % ${sellers};
     create index on given (id); analyze given;
     update tasks t set assignee_id = g.person from given g where g.id = t.deal_id and t.assignee_id = g.before;
     update step_runs r set assignee_id = g.person from given g where g.id = r.deal_id and r.assignee_id = g.before;
     update deal_states s set owner_id = g.person, team_id = g.team from given g where g.id = s.deal_id and s.shown_from < 'infinity';
     update deals d set owner_id = g.person, team_id = g.team from given g where g.id = d.id;`,
  );
  const { rows } = await client.query<{ team: string }>('select team from grown_teams where place = 0');
  return rows[0]?.team ?? '';
}

await onCopies(measureBook);
