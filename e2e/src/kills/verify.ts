import { run, typescript } from '../../../scripts/command.mjs';
import type { Company } from './company.ts';
import { ASKED, type Beliefs } from './people.ts';

interface Found extends Record<string, unknown> {
  readonly id: string;
  readonly source: string | null;
  readonly stage: string;
  readonly deals: number;
  readonly moves: number;
  readonly open_visits: number;
  readonly activities: string[];
}

/** Compares what people were told with what the database holds. Gives every difference in words: none where nothing was lost, doubled or halved. */
export async function verify(
  company: Company,
  process: string,
  stages: readonly string[],
  beliefs: Beliefs,
): Promise<readonly string[]> {
  return [
    ...(await verifyDeals(company, process, stages, beliefs)),
    ...(await verifyImports(company, beliefs)),
    ...(await verifyVersions(company, process, beliefs)),
    ...(await verifyFindings(company, process)),
    ...(await verifyStates(company)),
    ...(await verifyJournal(company)),
  ];
}

async function verifyDeals(
  company: Company,
  process: string,
  stages: readonly string[],
  { deals }: Beliefs,
): Promise<readonly string[]> {
  const found = await company.query<Found>(
    `select d.id, d.source, d.stage_id as stage, count(*) over (partition by d.name)::int as deals,
      (select count(*) from moves m where m.deal_id = d.id and m.kind = 'forward')::int as moves,
      (select count(*) from visits v where v.deal_id = d.id and v.left_at is null and not v.taken_back)::int as open_visits,
      (select coalesce(array_agg(t.text), '{}') from journal j join journal_texts t on t.id = j.text_id
        where j.deal_id = d.id and j.kind = 'activity') as activities
     from deals d where d.process_id = $1 and d.external_id is null`,
    [process],
  );
  const byId = new Map(found.map((row) => [row.id, row]));
  const problems = deals.flatMap((deal) => {
    const row = byId.get(deal.id);
    if (!row) return [`“${deal.name}” is lost.`];
    return [
      row.deals === 1 ? '' : `“${deal.name}” is there ${row.deals} times.`,
      row.source === deal.source ? '' : `“${deal.name}” has the source ${row.source}, not ${deal.source}.`,
      row.stage === stages[deal.stage] ? '' : `“${deal.name}” is in ${row.stage}, not ${stages[deal.stage]}.`,
      row.moves === deal.moves ? '' : `“${deal.name}” has ${row.moves} moves, not ${deal.moves}.`,
      row.open_visits === 1 ? '' : `“${deal.name}” is in ${row.open_visits} stages.`,
      row.activities.toSorted().join() === deal.activities.toSorted().join()
        ? ''
        : `“${deal.name}” has other activities.`,
    ].filter((problem) => problem !== '');
  });
  return found.length === deals.length
    ? problems
    : [...problems, `There are ${found.length} deals; ${deals.length} were begun.`];
}

async function verifyImports(company: Company, { imports }: Beliefs): Promise<readonly string[]> {
  const problems: string[] = [];
  for (const { id, prefix, rows, takenBack } of imports) {
    const [row] = await company.query<{ deals: number; names: number; created: number }>(
      `select count(*)::int as deals, count(distinct external_id)::int as names,
        (select created from imports where id = $2)::int as created
       from deals where external_id like $1 || '%' and status <> 'voided'`,
      [prefix, id],
    );
    const wanted = takenBack ? 0 : rows;
    if (row?.deals !== wanted || row.names !== wanted || row.created !== rows)
      problems.push(
        `The import ${prefix} has ${row?.deals} deals and says ${row?.created}; ${wanted} of ${rows} belong there.`,
      );
  }
  return problems;
}

async function verifyVersions(company: Company, process: string, { published }: Beliefs): Promise<readonly string[]> {
  const [row] = await company.query<{ versions: number; newest: number }>(
    `select count(*)::int as versions, max(number)::int as newest from process_versions where process_id = $1 and state <> 'draft'`,
    [process],
  );
  return row?.versions === published && row.newest === published
    ? []
    : [`There are ${row?.versions} versions, the newest ${row?.newest}; ${published} were published.`];
}

/** Every open deal is found without its source where the version that it follows asks for it, and nowhere else. */
async function verifyFindings(company: Company, process: string): Promise<readonly string[]> {
  const rows = await company.query<{ name: string; asked: boolean; found: boolean }>(
    `select name, asked, found from (
       select d.name, d.source is null and v.document->'stages'->0->'enter' @> jsonb_build_array(jsonb_build_object('id', $2::text)) as asked,
         exists (select from findings f where f.deal_id = d.id and f.requirement = $2 and f.closed_at = 'infinity') as found
       from deals d join process_versions v
         on v.id = coalesce(d.version_id, (select id from process_versions where process_id = d.process_id and state = 'live'))
       where d.process_id = $1 and d.status = 'open'
     ) judged where asked <> found`,
    [process, ASKED.id],
  );
  return rows.map(({ name, asked }) => `“${name}” ${asked ? 'lacks the finding' : 'has a finding'} of its source.`);
}

/**
 * Each open deal has one state now, which its last change wrote or the clock has turned since, and one that its last change wrote;
 * it says what the deal and its findings do. The clock of a server that wrote may be ahead.
 */
async function verifyStates(company: Company): Promise<readonly string[]> {
  const rows = await company.query<{ name: string; now: number; written: number; unlike: number }>(
    `select name, now, written, unlike from (select d.*, greatest(now(), h.settled_at) as at from deals d join deal_heads h on h.deal_id = d.id) d
     cross join lateral (
       select count(*) filter (where is_so)::int as now, count(*) filter (where shown_from = '-infinity')::int as written,
         count(*) filter (where is_so and (s.status, s.stage_id, s.owner_id, s.team_id, s.value_minor, s.findings)
           is distinct from (d.status, d.stage_id, d.owner_id, d.team_id, d.value_minor, found.findings))::int as unlike
       from (select *, from_at <= d.at and to_at > d.at as is_so from deal_states where deal_id = d.id and correction = 0) s
         cross join (select count(*) as findings from findings where deal_id = d.id and opened_at <= d.at and closed_at > d.at) found
     ) stands where d.status = 'open' and (now, written, unlike) <> (1, 1, 0)`,
    [],
  );
  return rows.map(
    ({ name, now, written, unlike }) => `“${name}” has ${now} states, ${written} written last, ${unlike} unlike it.`,
  );
}

async function verifyJournal(company: Company): Promise<readonly string[]> {
  const command = new URL('../../../server/src/journal/verifyCommand.ts', import.meta.url).pathname;
  const env = { ...process.env, DATABASE_URL: company.databaseUrl };
  return run('node', typescript(command), { env }).then(
    () => [],
    (error: Error) => [error.message],
  );
}
