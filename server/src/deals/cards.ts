import type { deal as contract, TypeOf } from '@ladder/contract';
import type { DealId } from '@ladder/core';
import {
  assembleGate,
  type CompiledGate,
  compileGate,
  type DealWith,
  daysOfStay,
  dealFacts,
  FACT_PARTS,
  type FactPartName,
  type GateFacts,
  isPastTarget,
  nextTarget,
  presentVisit,
  routeTo,
  runsAtHand,
  type Setting,
  type StepRun,
  stageOf,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { loadSettings } from '../setting/repository/settings.ts';
import { daysLate } from './presentSteps.ts';
import type { CardRow } from './repository/cards.ts';
import { loadDeals } from './repository/loadDeals.ts';

export type DealCard = TypeOf<typeof contract.card>;

/** Cards with what each deal's next gate still asks; gates are compiled once a stage and version. */
export async function toCards(
  tx: EntityManager,
  rows: readonly CardRow[],
  today: string,
  now: number,
): Promise<readonly DealCard[]> {
  const open = rows.filter(({ status }) => status === 'open').map(({ id }) => id);
  const ahead = await readAhead(tx, open, now);
  return rows.map((row) => toCard(row, today, ahead.get(row.id) ?? NOTHING_AHEAD));
}

/** What lies before an open deal: how much its next gate still asks, and the step at hand, owed ones first. */
interface Ahead {
  readonly missing: number;
  readonly step: { readonly name: string; readonly dueDay: string | null } | null;
}

const NOTHING_AHEAD: Ahead = { missing: 0, step: null };

function toCard(row: CardRow, today: string, { missing, step }: Ahead): DealCard {
  const { id, name, customer, stage, owner, team, status } = row;
  return {
    id,
    name,
    customer,
    stage,
    owner,
    team,
    status,
    value: row.minor === null || row.currency === null ? null : { minor: row.minor, currency: row.currency },
    age: daysOfStay(row.entered, row.left, today),
    moveOnDay: row.move_on,
    closeDate: row.close_date,
    pastTarget: status === 'open' && isPastTarget(row.move_on, today),
    standing: row.standing,
    findings: row.findings,
    owed: row.owed,
    revision: row.revision,
    missing,
    step: step && { ...step, daysLate: daysLate(step.dueDay, today) },
  };
}

async function readAhead(tx: EntityManager, ids: readonly DealId[], now: number): Promise<ReadonlyMap<string, Ahead>> {
  const deals = ids.length === 0 ? [] : await loadDeals(tx, ids, FACT_PARTS);
  const settings = await loadSettings(
    tx,
    deals.map(({ version }) => version),
  );
  const gates = new Map<string, CompiledGate>();
  return new Map(
    deals.flatMap((deal) => {
      const setting = settings.get(deal.version);
      if (!setting) return [];
      const facts: GateFacts = dealFacts(deal, setting, now);
      const [run] = runsAtHand(deal, setting.document);
      const step = run ? { name: stepName(run, setting), dueDay: run.dueDay } : null;
      return [[deal.id, { missing: gateOf(deal, setting, gates).missing(facts), step }] as const];
    }),
  );
}

/** How a step at hand is called now. */
const stepName = ({ stage, step, name }: StepRun, { document }: Setting): string =>
  stageOf(document, stage)?.steps.find(({ id }) => id === step)?.name ?? name;

function gateOf(deal: DealWith<FactPartName>, setting: Setting, gates: Map<string, CompiledGate>): CompiledGate {
  const from = presentVisit(deal).stage;
  const key = `${setting.version} ${from}`;
  const known = gates.get(key);
  if (known) return known;
  const target = nextTarget(setting.document, from);
  const route = routeTo(setting.document, from, target);
  const gate = compileGate(
    route.ok ? assembleGate(setting.document, from, target, route.value) : [],
    setting.catalogue,
  );
  gates.set(key, gate);
  return gate;
}
