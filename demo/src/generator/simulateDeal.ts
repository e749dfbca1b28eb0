import type { DealId, ProcessId } from '@ladder/core';
import {
  type ActivityKind,
  actor,
  addDays,
  addTask,
  adoptVersion,
  type Change,
  changeFollowUp,
  createDeal,
  type Deal,
  type DealRecord,
  editDeal,
  endTask,
  type Final,
  firstStage,
  goOnByItself,
  isClosed,
  isMoney,
  isOpen,
  isWon,
  localDay,
  type MoveAnswer,
  type MoveTarget,
  moveDeal,
  nextTarget,
  openTasks,
  personActor,
  placeOf,
  presentVisit,
  type Result,
  recordActivity,
  runsAtHand,
  type Setting,
  stageOf,
  startOfDay,
  takeBack,
  takeResult,
  tickItem,
} from '@ladder/core';
import type { DemoCustomer } from '../company/customers.ts';
import { ADMINISTRATOR, type DemoPerson, SELLERS } from '../company/people.ts';
import { between, chance, longTailed, pick, type Random, seededId, seededRandom } from '../random.ts';
import { goodValue, poorValue, wonBy } from './goodValue.ts';
import { askedReason, resultToTake } from './resultToTake.ts';

export interface SimulatedProcess {
  readonly id: ProcessId;
  readonly setting: Setting;
  /** An older version, followed until the newer one was published. */
  readonly older: { readonly setting: Setting; readonly until: number } | null;
  /** Share of deals that are lost from each stage, first on top; what is written as the chance may say otherwise. */
  readonly lossByStage: readonly number[];
  /** What a deal is worth in the middle, in pounds. */
  readonly worth: number;
}

export interface History {
  readonly deal: Deal;
  readonly records: readonly DealRecord[];
}

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const NOTES = [
  'They like the layout with the wider bays.',
  'Asked about the gutter height again.',
  'Waiting for their board.',
  'Will send the ground report this week.',
  'Wants a second price with a heat pump.',
  'Access from the lane is too narrow for the crane; looking at the north gate.',
  'Happy with the sample glazing.',
  'Their accountant asks for the payment plan.',
  'Nothing new; call again next week.',
] as const;

const TASKS = [
  'Send the revised drawing',
  'Ask for the planning reference',
  'Ring the site owner back',
  'Put the price list together',
  'Ask the grower for two references',
  'Check the delivery dates of the glass',
] as const;

/** One deal lived from its beginning until it closes or the present is reached, by the same commands that people use. */
export function simulateDeal(
  random: Random,
  process: SimulatedProcess,
  customer: DemoCustomer,
  begin: number,
  now: number,
): History {
  const life = new Life(random, process, customer, begin, now);
  life.live();
  return { deal: life.deal, records: life.records };
}

class Life {
  deal: Deal;
  records: DealRecord[] = [];
  private readonly seller: DemoPerson;
  private at: number;
  /** Of their own, so that steps, tasks and how it ends change nothing of what else happens. */
  private readonly steps: Random;
  private readonly tasks: Random;
  private readonly ends: Random;

  constructor(
    private readonly random: Random,
    private readonly process: SimulatedProcess,
    customer: DemoCustomer,
    begin: number,
    private readonly now: number,
  ) {
    this.at = Math.min(workingHour(random, begin), now);
    this.steps = seededRandom(Math.floor(begin / 1_000));
    this.tasks = seededRandom(Math.floor(begin / 1_000) + 1);
    this.ends = seededRandom(Math.floor(begin / 1_000) + 2);
    this.seller = pick(random, customer.kind === 'grower' ? SELLERS.slice(0, 4) : SELLERS.slice(4));
    const change = createDeal(
      {
        id: seededId(random, this.at) as DealId,
        process: process.id,
        externalId: null,
        name: dealName(random, customer),
        stage: firstStage(this.setting.document),
        partyValues: { customer_kind: customer.kind, credit_checked: chance(random, 0.8) },
        values: this.firstValues(customer),
      },
      this.setting,
      this.moment(),
    );
    this.deal = change.deal;
    this.records = [...change.records];
  }

  private firstValues(customer: DemoCustomer): Record<string, never> | Deal['values'] {
    const empty = Object.fromEntries(
      this.setting.document.sections.flatMap(({ fields }) => fields.map((field) => [field, null])),
    );
    const minor = Math.round(longTailed(this.random, this.process.worth, 0.6) / 1_000) * 100_000;
    const filled = {
      customer: customer.id,
      value: { minor, currency: 'GBP' },
      owner: this.seller.id,
      team: this.seller.teams[0] ?? null,
    };
    return {
      ...empty,
      ...filled,
      source: chance(this.random, 0.9) ? 'Referral' : null,
      close_date: chance(this.random, 0.7) ? localDay(this.at + 80 * DAY, this.setting.zone) : null,
    };
  }

  private get setting(): Setting {
    const { older, setting } = this.process;
    const followsOlder = older && (this.deal ? this.deal.version === older.setting.version : this.at < older.until);
    return followsOlder ? older.setting : setting;
  }

  private moment() {
    return { by: personActor(this.seller.id), happenedAt: this.at, recordedAt: this.at };
  }

  private apply(change: Change): void {
    this.deal = change.deal;
    this.records.push(...change.records);
  }

  /** Lets time pass; false where the present is reached. */
  private wait(days: number): boolean {
    const next = Math.max(this.at + 5 * 60_000, workingHour(this.random, this.at + days * DAY));
    const end = Math.min(next, this.now);
    this.goOn(end);
    if (next > this.now) return false;
    this.at = next;
    this.adoptIfPublished();
    return true;
  }

  /** What goes on by itself until then does, each at its instant. */
  private goOn(until: number): void {
    for (let rounds = 0; rounds < 50; rounds++) {
      const dues = runsAtHand(this.deal, this.setting.document).flatMap(({ goesOn }) => goesOn?.at ?? []);
      const due = Math.min(...dues);
      if (!(due <= until)) return;
      const moment = { by: actor('process', this.process.id), happenedAt: due, recordedAt: due };
      this.apply(goOnByItself(this.deal, this.setting, moment));
    }
  }

  /** Deals move over to the newer version when it is published, but for those nearly done. */
  private adoptIfPublished(): void {
    const { older, setting } = this.process;
    if (!older || this.deal.version !== older.setting.version || this.at < older.until) return;
    if (placeOf(setting.document, presentVisit(this.deal).stage) >= 4) return;
    const graceUntil = setting.publishes[0]?.graceUntil ?? older.until;
    const plan = { from: older.setting, to: setting, transfers: {}, graceUntil };
    const moment = { by: personActor(ADMINISTRATOR.id), happenedAt: this.at, recordedAt: this.at };
    const adopted = adoptVersion(this.deal, plan, moment);
    if (adopted.ok) this.apply(adopted.value);
  }

  live(): void {
    for (let stays = 0; stays < 14 && this.deal.status.state === 'open'; stays++) {
      if (this.stay()) continue;
      this.lookAhead();
      return;
    }
    this.comeBackLater();
  }

  /** Most lost deals are looked at again on the day that was set; what is still set then was missed. */
  private comeBackLater(): void {
    const { status } = this.deal;
    const day = isClosed(status) ? status.followUp : null;
    const at = day === null ? Number.POSITIVE_INFINITY : startOfDay(day, this.setting.zone) + 10 * HOUR;
    if (at > this.now || chance(this.tasks, 0.04)) return;
    this.at = Math.max(this.at, at);
    const followUp = { day: null, text: pick(this.tasks, ['Nothing new there.', 'They went elsewhere for good.']) };
    this.applyIf(changeFollowUp(this.deal, this.setting, followUp, this.moment()));
  }

  /** As the present is reached most sellers have looked over what lies before them. */
  private lookAhead(): void {
    if (!chance(this.tasks, 0.8)) return;
    this.at = Math.max(this.at, this.now - between(this.tasks, 1, 30) * HOUR);
    const today = localDay(this.at, this.setting.zone);
    for (const { seq, dueDay } of openTasks(this.deal))
      if (dueDay <= today && chance(this.tasks, 0.85))
        this.applyIf(endTask(this.deal, this.setting, seq, 'done', this.moment()));
    for (const { seq, dueDay } of runsAtHand(this.deal, this.setting.document))
      if (dueDay !== null && dueDay < today && chance(this.tasks, 0.7)) this.doStep(seq, null);
    if (chance(this.tasks, 0.9)) this.planNext(today);
  }

  /** One stay in a stage; false where the present is reached before it ends. */
  private stay(): boolean {
    const stage = stageOf(this.setting.document, presentVisit(this.deal).stage);
    const target = stage?.target?.days ?? 14;
    const stuck = chance(this.random, 0.16);
    let left = Math.max(1, longTailed(this.random, target * (stuck ? 3.4 : 1.15), 0.5));
    while (left > 0) {
      const pause = Math.min(left, longTailed(this.random, stuck ? 11 : 4.5, 0.6));
      if (!this.wait(pause)) return false;
      left -= pause;
      this.work();
    }
    return this.leave();
  }

  /** A day's work on the deal: something done and written down, a field filled, an item ticked. */
  private work(): void {
    if (chance(this.random, 0.62)) {
      const kind = pick<ActivityKind>(this.random, ['call', 'call', 'message', 'meeting', 'visit', 'note']);
      this.apply(recordActivity(this.deal, this.setting, kind, pick(this.random, NOTES), this.moment()));
    }
    for (const { seq } of runsAtHand(this.deal, this.setting.document))
      if (chance(this.steps, 0.6)) this.doStep(seq, null);
    this.workTasks();
    this.prepare(0.45);
    if (chance(this.random, 0.05)) this.slipCloseDate();
    if (chance(this.random, 0.035)) this.emptySomething();
  }

  /** Tasks that are due are mostly done, now and then one is added; what comes next is written down. */
  private workTasks(): void {
    const today = localDay(this.at, this.setting.zone);
    for (const { seq, dueDay } of openTasks(this.deal))
      if (dueDay <= addDays(today, 1) && chance(this.tasks, 0.8))
        this.applyIf(endTask(this.deal, this.setting, seq, 'done', this.moment()));
    if (chance(this.tasks, 0.2)) this.addTask(today);
    if (chance(this.tasks, 0.5)) this.planNext(today);
  }

  private addTask(today: string): void {
    const dueDay = addDays(today, between(this.tasks, 2, 12));
    const dueTime = chance(this.tasks, 0.2) ? pick(this.tasks, ['09:30', '11:00', '14:00', '16:15']) : null;
    const task = { title: pick(this.tasks, TASKS), assignee: this.seller.id, dueDay, dueTime };
    this.applyIf(addTask(this.deal, this.setting, task, this.moment()));
  }

  private planNext(today: string): void {
    this.write('next_action', goodValue(this.tasks, 'next_action', this.deal, today));
    this.write('next_action_day', addDays(today, between(this.tasks, 3, 14)));
  }

  private applyIf(changed: Result<Change, unknown>): void {
    if (changed.ok) this.apply(changed.value);
  }

  /** Ends a step at hand: with a result that leads to the target, or with one that stays in the stage, most often the first. */
  private doStep(
    run: number,
    target: MoveTarget | null,
    { reason = null, followUp = null }: { reason?: string | null; followUp?: string | null } = {},
  ): MoveAnswer['result'] | null {
    const asked = resultToTake(this.steps, this.deal, this.setting, run, target, this.at);
    if (!asked) return null;
    const { result, ...request } = asked;
    const taken = takeResult(
      this.deal,
      this.setting,
      {
        ...request,
        result: result.id,
        reason: askedReason(result, reason),
        followUp,
        tasks: 'cancel',
        final: target ? this.finalOf(target) : undefined,
      },
      this.moment(),
    );
    if (!taken.ok) return null;
    this.apply(taken.value.change);
    return taken.value.move?.result ?? null;
  }

  private slipCloseDate(): void {
    if (this.deal.values.close_date)
      this.write('close_date', localDay(this.at + between(this.random, 20, 70) * DAY, this.setting.zone));
  }

  /** A field that a stage asked for is emptied or spoiled later: real books have such things. */
  private emptySomething(): void {
    const field = pick(this.random, [
      'load_check',
      'decision_group',
      'build_cost',
      'energy_use',
      'audit_date',
      'source',
    ] as const);
    if (this.deal.values[field]) this.write(field, poorValue(this.random, field));
  }

  private write(field: string, value: Deal['values'][string]): void {
    const edited = editDeal(
      this.deal,
      this.setting,
      [{ field, saw: this.deal.values[field] ?? null, value }],
      this.moment(),
    );
    if (edited.ok) this.apply(edited.value);
  }

  /** Puts each thing that the next gate asks right, with the given likelihood. */
  private prepare(likelihood: number): void {
    const target = nextTarget(this.setting.document, presentVisit(this.deal).stage);
    this.putRight(target, likelihood);
  }

  private putRight(target: MoveTarget, likelihood: number): void {
    const preview = moveDeal(
      this.deal,
      this.setting,
      { target, mode: 'ask', text: null, reason: null, followUp: null, tasks: 'keep' },
      this.moment(),
    );
    const items = preview.ok ? preview.value.verdict.items.filter(({ state }) => isOpen(state)) : [];
    for (const { remedy } of items) {
      if (remedy.kind === 'log' && chance(this.steps, likelihood)) this.meet(remedy.activity);
      if (remedy.kind !== 'fill' && remedy.kind !== 'tick') continue;
      if (!chance(this.random, likelihood)) continue;
      if (remedy.kind === 'fill') for (const field of remedy.fields) this.fill(field, likelihood);
      else this.tick(remedy.item);
    }
  }

  private meet(kind: ActivityKind): void {
    this.apply(recordActivity(this.deal, this.setting, kind, pick(this.steps, NOTES), this.moment()));
  }

  private fill(field: string, likelihood: number): void {
    if (field === 'value' && this.deal.values.value) return;
    const poor = likelihood < 1 && chance(this.random, 0.12) ? poorValue(this.random, field) : null;
    const value = poor ?? goodValue(this.random, field, this.deal, localDay(this.at, this.setting.zone));
    if (value !== null) this.write(field, value);
  }

  private tick(item: string): void {
    const ticked = tickItem(this.deal, this.setting, item, 'ticked', this.moment());
    if (ticked.ok) this.apply(ticked.value);
  }

  /** The stay ends: lost, back, up, over a stage, or refused and put right; false where the present is reached. */
  private leave(): boolean {
    const place = placeOf(this.setting.document, presentVisit(this.deal).stage);
    if (chance(this.random, this.process.lossByStage[place] ?? 0.2)) return this.lose();
    if (place > 0 && chance(this.random, 0.06)) return this.comeBack(place);
    const stages = this.setting.document.stages;
    const skipTo = place > 0 && place < stages.length - 2 && chance(this.random, 0.05) ? stages[place + 2] : undefined;
    return this.moveUp(
      skipTo ? { to: 'stage', stage: skipTo.id } : nextTarget(this.setting.document, presentVisit(this.deal).stage),
    );
  }

  /** The move as a result of the step at hand makes it, if one does. */
  private moveByStep(
    target: MoveTarget,
    asked: { reason?: string | null; followUp?: string | null } = {},
  ): MoveAnswer['result'] | null {
    const [atHand] = runsAtHand(this.deal, this.setting.document).filter(({ owed }) => owed === 'no');
    return atHand ? this.doStep(atHand.seq, target, asked) : null;
  }

  private lose(): boolean {
    const lost = this.setting.document.outcomes.find(({ counts }) => counts === 'lost')?.id;
    const reason = pick(
      this.random,
      this.setting.reasons.filter(({ outcome }) => outcome === lost),
    );
    const followUp =
      reason.followUp === 'asked' ? localDay(this.at + between(this.random, 60, 240) * DAY, this.setting.zone) : null;
    const target = { to: 'outcome', outcome: reason.outcome } as const;
    if ('won_by' in this.deal.values && chance(this.ends, 0.85)) this.write('won_by', wonBy(this.ends, reason.id));
    if (this.moveByStep(target, { reason: reason.id, followUp }) !== 'moved')
      this.move(target, { reason: reason.id, followUp });
    return true;
  }

  private comeBack(place: number): boolean {
    const stage = this.setting.document.stages[place - 1];
    const target = stage && ({ to: 'stage', stage: stage.id } as const);
    if (target && this.moveByStep(target) !== 'moved')
      this.move(target, { text: 'They changed their minds about the layout.' });
    return true;
  }

  private moveUp(target: MoveTarget): boolean {
    for (let tries = 0; tries < 6; tries++) {
      this.putRight(target, tries === 0 ? 0.82 : 0.93);
      const won =
        target.to === 'outcome'
          ? pick(
              this.random,
              this.setting.reasons.filter(({ outcome }) => outcome === target.outcome),
            ).id
          : null;
      if (tries === 0 && this.moveByStep(target, { reason: won }) === 'moved') return true;
      const answer = this.move(target, { reason: won });
      if (answer?.result === 'moved') return this.maybeTakeBack();
      if (!this.wait(longTailed(this.random, 5, 0.7))) return false;
    }
    return this.lose();
  }

  private move(
    target: MoveTarget,
    {
      text = null,
      reason = null,
      followUp = null,
    }: { text?: string | null; reason?: string | null; followUp?: string | null },
  ): MoveAnswer | null {
    const answer = moveDeal(
      this.deal,
      this.setting,
      { target, mode: 'ask', text, reason, followUp, tasks: 'cancel', final: this.finalOf(target) },
      this.moment(),
    );
    if (!answer.ok) return null;
    this.apply(answer.value.change);
    return answer.value;
  }

  /** How a deal that is won ends: most often a little below what was expected, and written down within days. */
  private finalOf(target: MoveTarget): Final | undefined {
    const { value } = this.deal.values;
    if (!isWon(this.setting, target) || !isMoney(value)) return undefined;
    const share = chance(this.ends, 0.4) ? 1 : 0.88 + this.ends() * 0.16;
    const minor = Math.round((value.minor * share) / 10_000) * 10_000;
    const late = chance(this.ends, 0.6) ? 0 : between(this.ends, 1, 4);
    return { value: { ...value, minor }, day: localDay(this.at - late * DAY, this.setting.zone) };
  }

  /** Now and then a move was a slip of the hand, and is taken back within minutes. */
  private maybeTakeBack(): boolean {
    const step = this.deal.path.at(-1);
    if (!step || this.deal.status.state !== 'open' || !chance(this.random, 0.012)) return true;
    this.at += 4 * 60_000;
    this.apply(takeBack(this.deal, this.setting, step, this.moment(), 'Wrong deal.'));
    return true;
  }
}

/** A moment between eight and six on a weekday. */
function workingHour(random: Random, at: number): number {
  const day = new Date(at);
  const weekday = day.getUTCDay();
  const shift = weekday === 0 ? 1 : weekday === 6 ? 2 : 0;
  return Math.floor(at / DAY) * DAY + shift * DAY + 8 * HOUR + Math.floor(random() * 10 * HOUR);
}

function dealName(random: Random, customer: DemoCustomer): string {
  const part = pick(random, [
    'north block',
    'south block',
    'propagation house',
    'block 4',
    'new range',
    'palm house',
    'cold store wing',
    'teaching house',
    'east bays',
    'lower field',
  ]);
  return `${customer.name}, ${part}`;
}
