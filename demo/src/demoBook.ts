import { type BookCompany, type BookPart, DEMO_PASSWORD } from '@ladder/contract';
import type { ProcessId, VersionId } from '@ladder/core';
import {
  BUILT_IN_FIELDS,
  catalogueOf,
  changedRequirements,
  type HouseRules,
  MONDAY_TO_FRIDAY,
  NO_HOUSE_RULES,
  type ProcessDocument,
  type Publish,
  type Reason,
  type Setting,
  USUAL_TASK_FATES,
  USUAL_WAIVER_RIGHTS,
} from '@ladder/core';
import { CARE_PLAN } from './company/carePlan.ts';
import { DOCUMENT_KINDS } from './company/documentKinds.ts';
import { ENQUIRY_DESK } from './company/enquiryDesk.ts';
import { FIELDS } from './company/fields.ts';
import { MESSAGE_TEMPLATES } from './company/messageTemplates.ts';
import { NEW_BUILD, NEW_BUILD_FIRST } from './company/newBuild.ts';
import { ADMINISTRATOR, PEOPLE, TEAMS } from './company/people.ts';
import { DESK_REASONS, REASONS } from './company/reasons.ts';
import { RETROFIT } from './company/retrofit.ts';
import { type Book, generateBook } from './generator/generateBook.ts';
import type { SimulatedProcess } from './generator/simulateDeal.ts';
import { seededRandom } from './random.ts';

const DAY = 86_400_000;
const SEED = 20_241;
const ZONE = 'Europe/London';
const CALENDAR = '01900000-0000-7000-8000-000000030001';

export const PROCESS_IDS = {
  newBuild: '01900000-0000-7000-8000-000000040001' as ProcessId,
  retrofit: '01900000-0000-7000-8000-000000040002' as ProcessId,
  carePlan: '01900000-0000-7000-8000-000000040003' as ProcessId,
  enquiryDesk: '01900000-0000-7000-8000-000000040004' as ProcessId,
};
const VERSION_IDS = {
  newBuildFirst: '01900000-0000-7000-8000-000000050001' as VersionId,
  newBuild: '01900000-0000-7000-8000-000000050002' as VersionId,
  retrofit: '01900000-0000-7000-8000-000000050003' as VersionId,
  carePlan: '01900000-0000-7000-8000-000000050004' as VersionId,
  enquiryDesk: '01900000-0000-7000-8000-000000050005' as VersionId,
};

/** How large a company to make. */
export interface DemoSize {
  readonly deals: number;
}

/** Hollin & Marsh, anchored on `now`: the company, then its deals as they were lived. */
export function* demoBook(now: number, size: DemoSize): Generator<BookPart> {
  const { large, smaller } = simulatedProcesses(now);
  const { customers, histories } = generateBook(seededRandom(SEED), large, smaller, size.deals, now);
  yield { part: 'company', ...company(now, customers, histories) };
  for (const { deal, records } of histories) yield { part: 'deal', deal, records };
  yield { part: 'end' };
}

const newBuildRules = (now: number): HouseRules => ({
  ...NO_HOUSE_RULES,
  past_target: { level: 'flag', since: now - 730 * DAY },
  close_date_past: { level: 'flag', since: now - 300 * DAY },
});
const retrofitRules = (now: number): HouseRules => ({
  ...NO_HOUSE_RULES,
  past_target: { level: 'flag', since: now - 730 * DAY },
  idle: { level: 'flag', since: now - 200 * DAY },
});

const carePlanRules = (now: number): HouseRules => ({
  ...NO_HOUSE_RULES,
  past_target: { level: 'flag', since: now - 365 * DAY },
});

interface Simulated {
  readonly large: readonly [SimulatedProcess, SimulatedProcess];
  readonly smaller: readonly SimulatedProcess[];
}

function simulatedProcesses(now: number): Simulated {
  const setting = (
    version: VersionId,
    document: ProcessDocument,
    houseRules: HouseRules,
    reasons: readonly Reason[] = REASONS,
  ): Setting => ({
    version,
    document,
    houseRules,
    catalogue: catalogueOf([...BUILT_IN_FIELDS, ...FIELDS]),
    publishes: document === NEW_BUILD ? [newBuildPublish(now)] : [],
    reasons,
    taskFates: USUAL_TASK_FATES,
    waiverRights: USUAL_WAIVER_RIGHTS,
    calendar: MONDAY_TO_FRIDAY,
    zone: ZONE,
    reportingCurrency: 'GBP',
    rateOf: () => undefined,
  });
  const rules = newBuildRules(now);
  const large: Simulated['large'] = [
    {
      id: PROCESS_IDS.newBuild,
      setting: setting(VERSION_IDS.newBuild, NEW_BUILD, rules),
      lossByStage: [0.2, 0.22, 0.22, 0.18, 0.26, 0.04],
      worth: 260_000,
      older: {
        setting: setting(VERSION_IDS.newBuildFirst, NEW_BUILD_FIRST, rules),
        until: publishedAt(now),
      },
    },
    {
      id: PROCESS_IDS.retrofit,
      setting: setting(VERSION_IDS.retrofit, RETROFIT, retrofitRules(now)),
      lossByStage: [0.16, 0.18, 0.2, 0.22, 0.12],
      worth: 260_000,
      older: null,
    },
  ];
  const smaller: readonly SimulatedProcess[] = [
    {
      id: PROCESS_IDS.carePlan,
      setting: setting(VERSION_IDS.carePlan, CARE_PLAN, carePlanRules(now)),
      lossByStage: [0.06, 0.08, 0.12, 0.03],
      worth: 14_000,
      older: null,
    },
    {
      id: PROCESS_IDS.enquiryDesk,
      setting: setting(VERSION_IDS.enquiryDesk, ENQUIRY_DESK, NO_HOUSE_RULES, DESK_REASONS),
      lossByStage: [0.15, 0.35, 0.3],
      worth: 120_000,
      older: null,
    },
  ];
  return { large, smaller };
}

/** The newer version of New glasshouse build went live about twelve weeks ago, with two weeks of grace. */
const publishedAt = (now: number): number => now - 84 * DAY;
const newBuildPublish = (now: number): Publish => ({
  version: VERSION_IDS.newBuild,
  graceUntil: publishedAt(now) + 14 * DAY,
  changed: { [VERSION_IDS.newBuildFirst]: changedRequirements(NEW_BUILD_FIRST, NEW_BUILD) },
});

function company(now: number, customers: Book['customers'], histories: Book['histories']): BookCompany {
  const credit = new Map(histories.map(({ deal }) => [String(deal.values.customer), deal.partyValues]));
  return {
    organisation: { name: 'Hollin & Marsh Glasshouses', timeZone: ZONE, currency: 'GBP', demo: true },
    calendars: [{ id: CALENDAR, name: 'Monday to Friday', workingWeekdays: MONDAY_TO_FRIDAY.workingWeekdays }],
    teams: TEAMS,
    documentKinds: DOCUMENT_KINDS,
    templates: MESSAGE_TEMPLATES,
    people: PEOPLE,
    password: DEMO_PASSWORD,
    fields: FIELDS,
    processes: [
      process(PROCESS_IDS.newBuild, NEW_BUILD, newBuildRules(now)),
      process(PROCESS_IDS.retrofit, RETROFIT, retrofitRules(now)),
      process(PROCESS_IDS.carePlan, CARE_PLAN, carePlanRules(now)),
      process(PROCESS_IDS.enquiryDesk, ENQUIRY_DESK, NO_HOUSE_RULES, DESK_REASONS),
    ],
    versions: versions(now),
    customers: customers.map(({ id, name, kind }) => ({
      id,
      name,
      values: { customer_kind: kind, ...credit.get(id) },
    })),
  };
}

const process = (
  id: ProcessId,
  { name, kind }: ProcessDocument,
  houseRules: HouseRules,
  reasons: readonly Reason[] = REASONS,
): BookCompany['processes'][number] => ({
  id,
  name,
  kind,
  calendar: CALENDAR,
  houseRules,
  reasons,
});

function versions(now: number): BookCompany['versions'] {
  const begun = now - 735 * DAY;
  const { graceUntil: until, changed } = newBuildPublish(now);
  const common = { fields: FIELDS, grace: null, publishedAt: begun, publishedBy: ADMINISTRATOR.id };
  const { newBuild, retrofit, carePlan, enquiryDesk } = PROCESS_IDS;
  return [
    {
      ...common,
      id: VERSION_IDS.newBuildFirst,
      process: newBuild,
      number: 1,
      state: 'superseded',
      document: NEW_BUILD_FIRST,
    },
    {
      ...common,
      id: VERSION_IDS.newBuild,
      process: newBuild,
      number: 2,
      state: 'live',
      document: NEW_BUILD,
      grace: { until, changed },
      publishedAt: publishedAt(now),
    },
    { ...common, id: VERSION_IDS.retrofit, process: retrofit, number: 1, state: 'live', document: RETROFIT },
    { ...common, id: VERSION_IDS.carePlan, process: carePlan, number: 1, state: 'live', document: CARE_PLAN },
    { ...common, id: VERSION_IDS.enquiryDesk, process: enquiryDesk, number: 1, state: 'live', document: ENQUIRY_DESK },
  ];
}
