import { Ground1700000000001 } from './0001-ground.ts';
import { GraceAndRates1700000000002 } from './0002-grace-and-rates.ts';
import { SessionsAndAccess1700000000003 } from './0003-sessions-and-access.ts';
import { JournalCheckpoints1700000000004 } from './0004-journal-checkpoints.ts';
import { Outcomes1700000000005 } from './0005-outcomes.ts';
import { Actors1700000000006 } from './0006-actors.ts';
import { LongWork1700000000007 } from './0007-long-work.ts';
import { Beginnings1700000000008 } from './0008-beginnings.ts';
import { DealStates1700000000009 } from './0009-deal-states.ts';
import { StepRuns1700000000010 } from './0010-step-runs.ts';
import { Documents1700000000011 } from './0011-documents.ts';
import { PagesOfAPerson1700000000012 } from './0012-pages-of-a-person.ts';
import { Tasks1700000000013 } from './0013-tasks.ts';
import { CalendarFeeds1700000000014 } from './0014-calendar-feeds.ts';
import { Waivers1700000000015 } from './0015-waivers.ts';
import { NobodysSteps1700000000016 } from './0016-nobodys-steps.ts';
import { Estimates1700000000017 } from './0017-estimates.ts';
import { SettingsLog1700000000018 } from './0018-settings-log.ts';
import { Absences1700000000019 } from './0019-absences.ts';
import { Bell1700000000020 } from './0020-bell.ts';
import { Outbox1700000000021 } from './0021-outbox.ts';
import { ClosedDeals1700000000022 } from './0022-closed-deals.ts';
import { Dismissals1700000000023 } from './0023-dismissals.ts';
import { DraftPresence1700000000024 } from './0024-draft-presence.ts';
import { FieldsPage1700000000025 } from './0025-fields-page.ts';
import { Calendars1700000000026 } from './0026-calendars.ts';
import { AccessAndTurns1700000000027 } from './0027-access-and-turns.ts';
import { JudgedAhead1700000000028 } from './0028-judged-ahead.ts';
import { KeptAnswers1700000000029 } from './0029-kept-answers.ts';
import { KindsOfFindings1700000000030 } from './0030-kinds-of-findings.ts';
import { RewrittenInPlace1700000000031 } from './0031-rewritten-in-place.ts';
import { LargeBooks1700000000032 } from './0032-large-books.ts';
import { OpenBook1700000000033 } from './0033-open-book.ts';
import { Shapes1700000000034 } from './0034-shapes.ts';
import { AnswersAsText1700000000035 } from './0035-answers-as-text.ts';
import { KeptNames1700000000036 } from './0036-kept-names.ts';
import { OpenSums1700000000037 } from './0037-open-sums.ts';
import { Spans1700000000038 } from './0038-spans.ts';
import { SettingNews1700000000039 } from './0039-setting-news.ts';
import { JournalInSets1700000000040 } from './0040-journal-in-sets.ts';
import { PastDays1700000000041 } from './0041-past-days.ts';
import { NumberedShapes1700000000042 } from './0042-numbered-shapes.ts';
import { StateCorrections1700000000043 } from './0043-state-corrections.ts';
import { MeasuresKnownThen1700000000044 } from './0044-measures-known-then.ts';
import { SumsByKey1700000000045 } from './0045-sums-by-key.ts';
import { StatesAlone1700000000046 } from './0046-states-alone.ts';
import { CorrectedStates1700000000047 } from './0047-corrected-states.ts';

/** In order; each is applied once. */
export const migrations = [
  Ground1700000000001,
  GraceAndRates1700000000002,
  SessionsAndAccess1700000000003,
  JournalCheckpoints1700000000004,
  Outcomes1700000000005,
  Actors1700000000006,
  LongWork1700000000007,
  Beginnings1700000000008,
  DealStates1700000000009,
  StepRuns1700000000010,
  Documents1700000000011,
  PagesOfAPerson1700000000012,
  Tasks1700000000013,
  CalendarFeeds1700000000014,
  Waivers1700000000015,
  NobodysSteps1700000000016,
  Estimates1700000000017,
  SettingsLog1700000000018,
  Absences1700000000019,
  Bell1700000000020,
  Outbox1700000000021,
  ClosedDeals1700000000022,
  Dismissals1700000000023,
  DraftPresence1700000000024,
  FieldsPage1700000000025,
  Calendars1700000000026,
  AccessAndTurns1700000000027,
  JudgedAhead1700000000028,
  KeptAnswers1700000000029,
  KindsOfFindings1700000000030,
  RewrittenInPlace1700000000031,
  LargeBooks1700000000032,
  OpenBook1700000000033,
  Shapes1700000000034,
  AnswersAsText1700000000035,
  KeptNames1700000000036,
  OpenSums1700000000037,
  Spans1700000000038,
  SettingNews1700000000039,
  JournalInSets1700000000040,
  PastDays1700000000041,
  NumberedShapes1700000000042,
  StateCorrections1700000000043,
  MeasuresKnownThen1700000000044,
  SumsByKey1700000000045,
  StatesAlone1700000000046,
  CorrectedStates1700000000047,
];
