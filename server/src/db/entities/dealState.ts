import {
  DEAL_STATUSES,
  type DealId,
  type DealStatus,
  type ProcessId,
  STANDINGS,
  type StageId,
  type Standing,
} from '@ladder/core';
import { EntitySchema } from 'typeorm';
import { oneOf } from './oneOf.ts';

export interface DealStateRow {
  dealId: DealId;
  fromAt: Date;
  /**
   * 0 for how the deal stood, as is known now. Otherwise the number of what a change said otherwise of the time before it: that
   * the deal had been taken to stand so until then, or, below 0, that it stood so without its being known.
   */
  correction: string;
  toAt: Date;
  processId: ProcessId;
  ownerId: string | null;
  teamId: string | null;
  enteredAt: Date;
  valueMinor: string | null;
  enteredDay: string;
  moveOnDay: string | null;
  closeDate: string | null;
  findings: number;
  owed: number;
  /**
   * From when on lists show it: at once where it was so by the deal's last change, never again where it was over by then; null
   * for corrections.
   */
  shownFrom: Date | number | null;
  status: DealStatus['state'];
  standing: Standing;
  stageId: StageId;
  currency: string;
  kinds: string;
  /** Of `state_shapes`; given by PostgreSQL. */
  shape: number;
}

const SHOWN = "(shown_from < 'infinity'::timestamp with time zone)";
/** Of pages that are not narrowed to a team or an owner, see `findCards`. */
const OF_ALL =
  "((shown_from < 'infinity'::timestamp with time zone) AND (entered_at > '-infinity'::timestamp with time zone))";

export const DealStateEntity = new EntitySchema<DealStateRow>({
  name: 'dealState',
  tableName: 'deal_states',
  columns: {
    dealId: { type: 'uuid', primary: true },
    fromAt: { type: 'timestamptz', primary: true },
    correction: { type: 'bigint', primary: true, default: 0 },
    toAt: { type: 'timestamptz', default: () => "'infinity'" },
    processId: { type: 'uuid' },
    ownerId: { type: 'uuid', nullable: true },
    teamId: { type: 'uuid', nullable: true },
    enteredAt: { type: 'timestamptz' },
    valueMinor: { type: 'bigint', nullable: true },
    enteredDay: { type: 'date' },
    moveOnDay: { type: 'date', nullable: true },
    closeDate: { type: 'date', nullable: true },
    findings: { type: 'integer' },
    owed: { type: 'integer' },
    shownFrom: { type: 'timestamptz', nullable: true },
    status: { type: 'text' },
    standing: { type: 'text' },
    stageId: { type: 'text', collation: 'C' },
    currency: { type: 'char', length: 3 },
    kinds: { type: 'text', collation: 'C' },
    shape: { type: 'integer' },
  },
  checks: [
    { name: 'deal_states_check', expression: '(from_at < to_at)' },
    { name: 'deal_states_correction_check', expression: '((correction = 0) = (shown_from IS NOT NULL))' },
    oneOf('deal_states_status_check', 'status', DEAL_STATUSES),
    oneOf('deal_states_standing_check', 'standing', STANDINGS),
  ],
  foreignKeys: [
    { name: 'deal_states_deal_id_fkey', target: 'deal', columnNames: ['dealId'], referencedColumnNames: ['id'] },
  ],
  indices: [
    { name: 'deal_states_by_age', columns: ['processId', 'status', 'enteredAt', 'dealId'], where: OF_ALL },
    { name: 'deal_states_by_owner', columns: ['ownerId', 'status', 'enteredAt', 'dealId'], where: SHOWN },
    { name: 'deal_states_by_stage', synchronize: false },
    // With all that the open book is added up from.
    { name: 'deal_states_shown', synchronize: false },
    { name: 'deal_states_turned', synchronize: false },
    // How else the book stood on a past day, see `SO_THEN_PARTS`.
    { name: 'deal_states_over', synchronize: false },
    // How it was taken to stand on that day, beside how it is known to have stood.
    {
      name: 'deal_states_corrected',
      columns: ['processId', 'toAt', 'fromAt'],
      where: "((correction <> 0) AND (status = 'open'::text))",
    },
    {
      name: 'deal_states_by_standing',
      columns: ['processId', 'standing', 'enteredAt', 'dealId'],
      where: "((shown_from < 'infinity'::timestamp with time zone) AND (status = 'open'::text))",
    },
    { name: 'deal_states_by_status', columns: ['status', 'enteredAt', 'dealId'], where: OF_ALL },
    { name: 'deal_states_by_team', columns: ['teamId', 'status', 'enteredAt', 'dealId'], where: SHOWN },
  ],
});
