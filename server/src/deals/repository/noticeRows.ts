import { type Change, type Notice, noticesOf, personOf } from '@ladder/core';
import type { RowsWritten } from './parts/storedPart.ts';
import { iso } from './timestamps.ts';

/**
 * What changes tell people, written with them: to a person, to whoever watches the deal, or to whoever may decide on its
 * waivers. Whoever did it is told nothing; the same thing, told again while it is unread, stays one notice.
 */
export function noticeRows(changes: readonly Change[]): RowsWritten {
  const rows = changes
    .flatMap((change) => eachOnce(noticesOf(change)))
    .map((notice) => ({
      kind: notice.kind,
      who: notice.for.who,
      person: notice.for.who === 'person' ? notice.for.person : null,
      deal: notice.deal,
      about: notice.about,
      event: notice.event,
      by_id: personOf(notice.by),
      at: iso(notice.at),
    }));
  return { rows, statement: STATEMENT };
}

/** Of what watchers are told of one change the last. */
const eachOnce = (notices: readonly Notice[]): readonly Notice[] => [
  ...new Map(
    notices.map((notice) => [`${notice.about} ${notice.for.who === 'person' ? notice.for.person : ''}`, notice]),
  ).values(),
];

const STATEMENT = `
  insert into notices (person_id, kind, deal_id, about, event, by_id, at)
  select distinct on (told.person, told.about) told.person, told.kind, told.deal, told.about, told.event, told.by_id, told.at from (
    select r.*, row_number() over () as place from jsonb_to_recordset(:rows) as r(kind text, who text, person uuid, deal uuid, about text, event text, by_id uuid, at timestamptz)
    where r.who = 'person' and exists (select from people p where p.id = r.person and p.active)
    union all
    select r.kind, r.who, w.person_id, r.deal, r.about, r.event, r.by_id, r.at, row_number() over ()
    from jsonb_to_recordset(:rows) as r(kind text, who text, person uuid, deal uuid, about text, event text, by_id uuid, at timestamptz)
    join watchers w on w.deal_id = r.deal where r.who = 'watchers'
      and not exists (select from jsonb_to_recordset(:rows) as o(person uuid, deal uuid) where o.person = w.person_id and o.deal = r.deal)
    union all
    select r.kind, r.who, p.id, r.deal, r.about, r.event, r.by_id, r.at, row_number() over ()
    from jsonb_to_recordset(:rows) as r(kind text, who text, person uuid, deal uuid, about text, event text, by_id uuid, at timestamptz)
    join deals d on d.id = r.deal join processes o on o.id = d.process_id
    join people p on p.active and coalesce(o.waiver_rights->'roles', '["manager", "administrator"]') ? p.role
      and (p.role = 'administrator' or exists (select from team_members m where m.person_id = p.id and m.team_id = d.team_id))
    where r.who = 'deciders'
  ) told where told.person is distinct from told.by_id
  order by told.person, told.about, told.place desc
  on conflict (person_id, about) where read_at is null
    do update set at = excluded.at, event = excluded.event, by_id = excluded.by_id, times = notices.times + 1, mailed_at = null`;
