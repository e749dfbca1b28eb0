export { canonicalText } from './canonicalText.ts';
export { recordActivity } from './commands/activity.ts';
export { type Adoption, adoptVersion } from './commands/adoptVersion.ts';
export { andThen } from './commands/andThen.ts';
export { changeBy, type Step } from './commands/change.ts';
export { passStep, passStepOn, putOff, type RunProblem } from './commands/changeRun.ts';
export { createDeal } from './commands/create.ts';
export { attachDocument, type DocumentProblem, removeDocument } from './commands/documents.ts';
export { type EditDealProblem, editDeal, editStep, type FieldEdit } from './commands/edit.ts';
export { recordErasure } from './commands/eraseText.ts';
export { type Final, isWon } from './commands/finalFacts.ts';
export { changeFollowUp } from './commands/followUp.ts';
export { recordNext } from './commands/goOnAnew.ts';
export { goOnByItself } from './commands/goOnByItself.ts';
export { handOnDeal } from './commands/leave.ts';
export { type ChoiceMapping, mapChoiceOfDeal } from './commands/mapChoice.ts';
export { type MoveAnswer, type MoveProblem, moveDeal, previewMove, taskMoveOf } from './commands/move.ts';
export { type Along, type Reassigning, type ReassignProblem, reassignDeal } from './commands/reassign.ts';
export { type CountedBefore, type Recount, recountDays } from './commands/recountDays.ts';
export { rejudgeDeal } from './commands/rejudgeDeal.ts';
export { renameStep } from './commands/rename.ts';
export { type ReopenProblem, reopenDeal } from './commands/reopen.ts';
export { canTakeBack, TAKE_BACK_MS, type TakeBackProblem, takeBack, takeBackStep } from './commands/takeBack.ts';
export { type ResultAnswer, type ResultProblem, type ResultRequest, takeResult } from './commands/takeResult.ts';
export { canTakeResultBack, type TakeResultBackProblem, takeResultBack } from './commands/takeResultBack.ts';
export { addTaskSet, type TaskSetProblem } from './commands/taskSets.ts';
export {
  addTask,
  endTask,
  type NewTask,
  passTask,
  passTaskStep,
  putTaskOff,
  renameTask,
  reopenTask,
  type TaskProblem,
} from './commands/tasks.ts';
export { type Ticker, type TickProblem, tickItem, tickItemBy } from './commands/tick.ts';
export { undoEntries } from './commands/undoEntries.ts';
export { type NotMoved, updateDeal } from './commands/updateDeal.ts';
export { recordMerge, voidDeal } from './commands/voidDeal.ts';
export { type BulkWaiver, waiveChanged } from './commands/waiveChanged.ts';
export {
  type AskWaiverProblem,
  askWaiver,
  type DecideWaiverProblem,
  decideWaiver,
  type EndWaiverProblem,
  revokeWaiver,
  type WaiverAnswer,
  type WaiverRequest,
  withdrawWaiver,
} from './commands/waivers.ts';
export { withdrawAttempt } from './commands/withdrawAttempt.ts';
export {
  type ComparedOutcome,
  type ComparedStage,
  compareVersions,
  differs,
  type VersionComparison,
} from './comparison/compareVersions.ts';
export type { Difference, DifferencePart } from './comparison/difference.ts';
export type { ComparedVersion } from './comparison/words.ts';
export { describeFinding, type ToldDeal } from './compliance/describeFinding.ts';
export { expectedFindings } from './compliance/expectedFindings.ts';
export { owedItems } from './compliance/owed.ts';
export { type RequirementSieve, requirementSieve } from './compliance/requirementSieve.ts';
export { checkCriterion, type Problem } from './criteria/check.ts';
export { compile } from './criteria/compile.ts';
export {
  COMPARISONS,
  type Comparison,
  type Condition,
  type ConditionKind,
  type Criterion,
  isGroup,
  JOURNEY_FACTS,
  type JourneyFact,
  type Operand,
  STEP_FACTS,
  type StepFact,
  type Term,
} from './criteria/criterion.ts';
export { evaluate } from './criteria/evaluate.ts';
export { and, type Kleene, not, or } from './criteria/kleene.ts';
export { operandField } from './criteria/operands.ts';
export { CONDITIONS_FOR, conditionsFor } from './criteria/operators.ts';
export { type NameOf, type Piece, sentence, valueText } from './criteria/phrase.ts';
export { type Actor, actor, personActor, personOf, readActor } from './deals/actor.ts';
export { daysOfStay, isPastTarget } from './deals/age.ts';
export type { Deal, DealHead, DealWith } from './deals/deal.ts';
export { dealFacts } from './deals/dealFacts.ts';
export {
  FINDING_KINDS,
  FINDING_NAMES,
  FINDING_ORIGINS,
  type Finding,
  type FindingKind,
  OPEN_ENDED,
  STANDINGS,
  type Standing,
  standingAt,
  standsAt,
} from './deals/finding.ts';
export type { DealDocument } from './deals/parts/documents.ts';
export { RUN_ENDS, type RunEnd, runsAtHand, runsThatCount, type StepRun, THREAD_ENDS } from './deals/parts/runs.ts';
export type { DealState } from './deals/parts/states.ts';
export { openTasks, type Task, type TaskEnd, type TaskOrigin } from './deals/parts/tasks.ts';
export { type Tick, tickedItems } from './deals/parts/ticks.ts';
export { textValue } from './deals/parts/values.ts';
export { presentVisit } from './deals/parts/visits.ts';
export {
  openWaivers,
  WAIVER_DECISIONS,
  WAIVER_ENDS,
  type Waiver,
  type WaiverDecision,
  type WaiverEnd,
  waiversInForce,
} from './deals/parts/waivers.ts';
export { DEAL_PART_NAMES, type DealPartName, FACT_PARTS, type FactPartName } from './deals/parts.ts';
export type { ActivityRecord, Change, DealRecord, JournalEntry, MoveRecord, RefusalRecord } from './deals/record.ts';
export type { Moment, Reason, Setting } from './deals/setting.ts';
export { type Restated, restated } from './deals/states.ts';
export { DEAL_STATUSES, type DealStatus, type Estimate, isClosed } from './deals/status.ts';
export { stepPerson } from './deals/stepPerson.ts';
export type { OpenQuestion } from './designCheck/asker.ts';
export { checkDesign, type DesignCheck, publishProblems } from './designCheck/designCheck.ts';
export { FIELD_USE_WAYS, type FieldUse, fieldUses } from './designCheck/fieldUses.ts';
export {
  type Design,
  type DesignPerson,
  type DesignRemedy,
  REMARK_WEIGHTS,
  type Remark,
  type RemarkPlace,
  type RemarkWeight,
  type StageEvidence,
} from './designCheck/remark.ts';
export type { DealLink } from './events/dealLink.ts';
export { describeEntry } from './events/describeEntry.ts';
export { EVENT_KINDS, JOURNAL_KINDS, type JournalBody } from './events/kinds.ts';
export {
  ACTIVITY_KINDS,
  ACTIVITY_SPANS,
  ACTIVITY_WORDS,
  type ActivityCounts,
  type ActivityKind,
  type ActivitySpan,
} from './facts/activityKind.ts';
export {
  calculate,
  formulaFields,
  formulaParts,
  readsThrough,
  sourceFields,
  withCalculated,
} from './facts/calculate.ts';
export { type FieldProblem, fieldProblems } from './facts/checkField.ts';
export {
  BUILT_IN_FIELDS,
  type Catalogue,
  type Choice,
  catalogueOf,
  FIELD_HOLDERS,
  FIELD_TYPES,
  type Field,
  type FieldHolder,
  type FieldType,
  type Formula,
  OWN_FIELD_TYPES,
} from './facts/field.ts';
export {
  describeFormulaProblem,
  type FormulaPlace,
  type FormulaProblem,
  formulaOperands,
  MOST_FORMULA_PARTS,
  readFormula,
  writeFormula,
  writtenName,
} from './facts/formulaText.ts';
export { mappedChoice } from './facts/mappedChoice.ts';
export {
  checkValue,
  describeValueProblem,
  type FactValue,
  foldText,
  isEmpty,
  isMoney,
  normaliseValue,
  type Values,
} from './facts/value.ts';
export {
  DATE_ORDERS,
  DATE_READINGS,
  type DateOrder,
  type DateReading,
  DateTally,
  orderOf,
} from './formats/dateOrder.ts';
export { DELIMITERS, type Delimiter, guessDelimiter } from './formats/delimiter.ts';
export { harmlessCell } from './formats/harmlessCell.ts';
export { type ColumnTarget, DEAL_COLUMNS, type DealColumn, guessColumns } from './formats/importColumn.ts';
export { type Lookup, readCell } from './formats/readCell.ts';
export { type ImportedRow, type ImportTerms, readRow } from './formats/readRow.ts';
export { type AskedItem, assembleGate } from './gate/assemble.ts';
export { type CompiledGate, compileGate } from './gate/compileGate.ts';
export { fieldsAsked, itemsOf, itemsToEnter } from './gate/item.ts';
export {
  type ChangedRequirements,
  changedRequirements,
  type Publish,
  type PublishReach,
  publishReach,
} from './gate/publish.ts';
export {
  MOVE_KINDS,
  type MoveKind,
  type MoveTarget,
  nextTarget,
  type Route,
  routeTo,
  targetFromText,
  targetText,
} from './gate/route.ts';
export { GATE_ANSWERS, type GateAnswer, judgeGate, type KeptVerdict, type Verdict } from './gate/verdict.ts';
export type { DealId, ProcessId, StageId, VersionId } from './ids.ts';
export {
  afterFailure,
  isHeaderText,
  isMailAddress,
  MESSAGE_STATES,
  type MessageState,
  MOST_TRIES,
} from './messages/delivery.ts';
export {
  describeTemplateProblem,
  LONGEST_MESSAGE,
  LONGEST_SUBJECT,
  LONGEST_TEMPLATE,
  type MergeFacts,
  mergeTemplate,
  templateProblems,
  unfilledFields,
} from './messages/template.ts';
export {
  amountToMinor,
  convert,
  type Exchange,
  halfEvenRatio,
  isCurrency,
  type Money,
  minorDigits,
  minorToAmount,
  type Rate,
  type RateOf,
  weightedMinor,
} from './money/money.ts';
export { countedMedian, type DayCountRow } from './movement/countedMedian.ts';
export { type StageCounts, stageMovement } from './movement/stageMovement.ts';
export { type StepMovement, type StepRunCount, stepMovement } from './movement/stepMovement.ts';
export { type Share, wilson } from './movement/wilson.ts';
export { mentionsIn, withMentions } from './notices/mentions.ts';
export { NOTICE_KINDS, type Notice, type NoticeKind, noticesOf } from './notices/noticesOf.ts';
export { type InTurn, nextInTurn } from './people/nextInTurn.ts';
export type { Assignment, ProcessAccess } from './processes/access.ts';
export { checkDocument, checkIds } from './processes/check.ts';
export { copyDocument } from './processes/copyDocument.ts';
export { askedBy, diffDocuments, type ProcessChange, touchesGates } from './processes/diff.ts';
export {
  DOCUMENT_FORMAT,
  type FieldSection,
  firstStage,
  newDocument,
  OUTCOME_COUNTS,
  type Outcome,
  outcomeOf,
  PROCESS_KINDS,
  type ProcessDocument,
  type ProcessKind,
  placeOf,
  RULES,
  type Rule,
  type Stage,
  stageOf,
  taskSetOf,
  USUAL_OUTCOMES,
} from './processes/document.ts';
export { namesWith } from './processes/documentNames.ts';
export { applyEdit, type EditProblem, type ProcessEdit, type RequirementPlace } from './processes/edit.ts';
export { HOUSE_RULES, type HouseRule, type HouseRules, NO_HOUSE_RULES } from './processes/houseRules.ts';
export { leadWords } from './processes/leadWords.ts';
export {
  CONFLICT_CHOICES,
  type ConflictChoice,
  type DraftConflict,
  type DraftPart,
  mergeDrafts,
} from './processes/mergeDrafts.ts';
export {
  type FilePlan,
  type PlannedField,
  PROCESS_FILE_FORMAT,
  type Present,
  type ProcessFile,
  planFile,
} from './processes/processFile.ts';
export { readDocument, type StoredDocument } from './processes/readDocument.ts';
export {
  STARTING_POINT_WORDS,
  STARTING_POINTS,
  type StartingPoint,
  startingDocument,
} from './processes/startingPoints.ts';
export { dayCountWords, dueWords, whoWords } from './processes/stepWords.ts';
export { type ChecklistItem, TICKER_WORDS, TICKERS } from './requirements/checklist.ts';
export { describeActual, describeItem } from './requirements/describeItem.ts';
export {
  ASKED_AT,
  BINDINGS,
  type Binding,
  type GateFacts,
  ITEM_STATES,
  type ItemBase,
  isOpen,
  LEVELS,
  type Level,
} from './requirements/item.ts';
export { requirementProblems } from './requirements/itemParts.ts';
export { type ItemVerdict, judgeItem } from './requirements/judgeItem.ts';
export type { RequirementKind } from './requirements/kind.ts';
export { REQUIREMENT_KINDS, type Requirement } from './requirements/kinds.ts';
export { failed, ok, type Result } from './result.ts';
export type { Shape, Shapes } from './shape.ts';
export { type FlowEdge, type StepFlow, stepFlow } from './steps/flow.ts';
export { type LeadsTo, leadOf } from './steps/lead.ts';
export {
  CAPTURE_NEEDS,
  type Capture,
  DUE_AFTER,
  FEW_STEPS,
  type GoesOn,
  type GuidedStep,
  type Lead,
  MESSAGE_HOWS,
  type MessageAction,
  type MessageHow,
  MOST_ACTIONS,
  MOST_RESULTS,
  MOST_STEPS,
  MOST_WAIT_DAYS,
  newResult,
  newStep,
  type ResultAction,
  resultKey,
  SETTABLE_TYPES,
  type SetTo,
  STEP_ROLES,
  STEP_WHO,
  type StepDue,
  type StepResult,
  type StepRole,
  type StepWho,
} from './steps/step.ts';
export { readTaskLine, type TaskLine, type TaskLineProblem } from './tasks/readTaskLine.ts';
export {
  LONGEST_TITLE,
  MOST_OPEN_TASKS,
  TASK_ENDS,
  TASK_FATES,
  TASK_MOVES,
  type TaskEnding,
  type TaskFate,
  type TaskFates,
  type TaskMove,
  TIME_OF_DAY,
  USUAL_TASK_FATES,
} from './tasks/task.ts';
export {
  type Arrival,
  MOST_ARRIVALS,
  MOST_SET_TASKS,
  MOST_TASK_SETS,
  newSetTask,
  newTaskSet,
  type SetTask,
  TASK_WHO,
  type TaskSet,
  type TaskWho,
} from './tasks/taskSet.ts';
export {
  type Calendar,
  calendarDaysOf,
  type DayCount,
  type Holiday,
  isWorkingDay,
  MONDAY_TO_FRIDAY,
  moveOnDay,
  recountedDay,
  type Target,
} from './time/calendar.ts';
export {
  addDays,
  type Day,
  dayNumber,
  daysBetween,
  FIRST_DAY,
  instantOf,
  isUsualDay,
  LAST_DAY,
  localDay,
  parseDay,
  startOfDay,
} from './time/day.ts';
export { CALENDAR_KINDS, type CalendarItem, calendarItems } from './today/calendarItems.ts';
export {
  DAY_GROUPS,
  DAY_ORDERS,
  type DayEntry,
  type DayGroup,
  type DayOrder,
  type DealDay,
  dayEntries,
  daysLateOf,
} from './today/dayEntry.ts';
export { DAY_ITEM_KINDS, type DayItem, type DayItemKind } from './today/dayItem.ts';
export {
  DAYS_AHEAD,
  type DealAtHand,
  itemsOfDeal,
  type RunAtHand,
  type TaskAtHand,
  weightOfDeal,
} from './today/dealDay.ts';
export { ITEM_NAMES, itemTitle } from './today/itemWords.ts';
export {
  LONGEST_WAIVER_DAYS,
  USUAL_WAIVER_RIGHTS,
  WAIVER_ROLES,
  type WaiverRights,
  type WaiverRole,
} from './waivers/waiver.ts';
