import { AbsenceEntity } from './absence.ts';
import { ActivityEntity } from './activity.ts';
import { AssignmentTurnEntity } from './assignmentTurn.ts';
import { CalendarEntity } from './calendar.ts';
import { CalendarFeedEntity } from './calendarFeed.ts';
import { ContactEntity } from './contact.ts';
import { CustomerEntity } from './customer.ts';
import { DayRecountEntity } from './dayRecount.ts';
import { DealEntity } from './deal.ts';
import { DealHeadEntity } from './dealHead.ts';
import { DealStateEntity } from './dealState.ts';
import { DealStayEntity } from './dealStay.ts';
import { DismissalEntity } from './dismissal.ts';
import { DocumentEntity } from './document.ts';
import { DocumentChunkEntity } from './documentChunk.ts';
import { DocumentKindEntity } from './documentKind.ts';
import { DraftPresenceEntity } from './draftPresence.ts';
import { DroppedResultEntity } from './droppedResult.ts';
import { DueWorkEntity } from './dueWork.ts';
import { FieldEntity } from './field.ts';
import { FindingEntity } from './finding.ts';
import { IdempotencyKeyEntity } from './idempotencyKey.ts';
import { ImportEntity } from './import.ts';
import { ImportBadRowEntity } from './importBadRow.ts';
import { ImportChunkEntity } from './importChunk.ts';
import { ImportUpdateEntity } from './importUpdate.ts';
import { JournalCheckpointEntity } from './journalCheckpoint.ts';
import { JournalCheckpointHeadEntity } from './journalCheckpointHead.ts';
import { JournalEntryEntity } from './journalEntry.ts';
import { JournalTextEntity } from './journalText.ts';
import { JudgedDealEntity, PublishJudgingEntity } from './judgedDeal.ts';
import { LongWorkEntity } from './longWork.ts';
import { MessageEntity } from './message.ts';
import { MessageTemplateEntity } from './messageTemplate.ts';
import { MoveEntity } from './move.ts';
import { NoticeEntity } from './notice.ts';
import { OrganisationEntity } from './organisation.ts';
import { PersonEntity } from './person.ts';
import { ProcessEntity } from './process.ts';
import { ProcessEventEntity } from './processEvent.ts';
import { ProcessLogEntryEntity } from './processLogEntry.ts';
import { ProcessReasonEntity } from './processReason.ts';
import { ProcessVersionEntity } from './processVersion.ts';
import { RateEntity } from './rate.ts';
import { RefusalEntity } from './refusal.ts';
import { SessionEntity } from './session.ts';
import { SettingsLogEntryEntity } from './settingsLogEntry.ts';
import { SignInTryEntity } from './signInTry.ts';
import { StateShapeEntity } from './stateShape.ts';
import { StepRunEntity } from './stepRun.ts';
import { TaskEntity } from './task.ts';
import { TeamEntity } from './team.ts';
import { TeamMemberEntity } from './teamMember.ts';
import { TickEntity } from './tick.ts';
import { VisitEntity } from './visit.ts';
import { WaiverEntity } from './waiver.ts';
import { WatcherEntity } from './watcher.ts';

/** Every table. Deals and their history are written as sets, in SQL; whatever is read and written a row at a time goes through these. */
export const entities = [
  AbsenceEntity,
  ActivityEntity,
  AssignmentTurnEntity,
  CalendarEntity,
  CalendarFeedEntity,
  ContactEntity,
  CustomerEntity,
  DayRecountEntity,
  DealEntity,
  DealHeadEntity,
  DealStateEntity,
  DealStayEntity,
  ProcessEventEntity,
  DismissalEntity,
  DocumentEntity,
  DocumentChunkEntity,
  DocumentKindEntity,
  DraftPresenceEntity,
  DroppedResultEntity,
  DueWorkEntity,
  FieldEntity,
  FindingEntity,
  IdempotencyKeyEntity,
  ImportEntity,
  ImportBadRowEntity,
  ImportChunkEntity,
  ImportUpdateEntity,
  JudgedDealEntity,
  PublishJudgingEntity,
  JournalCheckpointEntity,
  JournalCheckpointHeadEntity,
  JournalEntryEntity,
  JournalTextEntity,
  LongWorkEntity,
  MessageEntity,
  MessageTemplateEntity,
  MoveEntity,
  NoticeEntity,
  OrganisationEntity,
  PersonEntity,
  ProcessEntity,
  ProcessLogEntryEntity,
  ProcessReasonEntity,
  ProcessVersionEntity,
  RateEntity,
  RefusalEntity,
  SessionEntity,
  SignInTryEntity,
  SettingsLogEntryEntity,
  StateShapeEntity,
  StepRunEntity,
  TaskEntity,
  TeamEntity,
  TeamMemberEntity,
  TickEntity,
  VisitEntity,
  WaiverEntity,
  WatcherEntity,
];
