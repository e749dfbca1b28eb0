import type { DataSource } from 'typeorm';

/**
 * What the server's own role may do: it owns nothing, in the journal and its checkpoints it may only add (`append_journal`) and read, and of
 * moves and stays it changes no more than leaving, taking back and counting days anew need.
 */
export async function grantToServer(dataSource: DataSource, role: string): Promise<void> {
  const name = `"${role.replaceAll('"', '""')}"`;
  await dataSource.query(`
    grant usage on schema public, jobs to ${name};
    grant select, insert, update, delete on all tables in schema public to ${name};
    grant usage, select on all sequences in schema public to ${name};
    grant select, insert, update, delete on all tables in schema jobs to ${name};
    grant execute on all functions in schema jobs to ${name};
    revoke insert, update, delete, truncate on journal from ${name};
    revoke update, delete, truncate on journal_texts, process_log, settings_log, state_shapes, dropped_results, process_events, journal_checkpoints, journal_checkpoint_heads from ${name};
    revoke update, delete, truncate on moves, visits from ${name};
    grant update (taken_back_at, taken_back_by, taken_back_actor, reopened_at, voided_at, counts) on moves to ${name};
    grant update (left_at, left_day, taken_back, activity_counts, move_on_day) on visits to ${name};
    revoke insert, update, delete on migrations from ${name};
    revoke update, delete on deal_heads from ${name};
    grant update (revision, last_activity_at, settled_at, checked_count) on deal_heads to ${name};
  `);
}
