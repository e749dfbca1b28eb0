import { wilson } from '../movement/wilson.ts';
import type { Stage } from '../processes/document.ts';
import { dayCountWords } from '../processes/stepWords.ts';
import { type Calendar, calendarDaysOf } from '../time/calendar.ts';
import { type Design, inStage, type Remark, type StageEvidence, WHOLE_PROCESS } from './remark.ts';

/*
 * Common practice: few stages, each asking for something, none asking for too much; and numbers that fit what happens. Of
 * fewer deals than ten nothing is said.
 */
const FEW_STAGES = 7;
const MANY_MUSTS = 12;
const ENOUGH_DEALS = 10;
const OFTEN_SKIPPED = 0.3;
const FAR_IN_DAYS = 2;
const FAR_IN_CHANCE = 0.15;

/** Suggestions, and a chance that falls along the ladder. */
export function practiceRemarks({ document, evidence, calendar }: Design): readonly Remark[] {
  const { stages } = document;
  return [
    ...(stages.length > FEW_STAGES ? [tooMany(stages.length)] : []),
    ...stages.flatMap((stage, place) => [
      ...falling(stage, stages[place - 1]),
      ...asking(stage),
      ...evidence.filter((one) => one.stage === stage.id).flatMap((one) => fitting(stage, one, calendar)),
    ]),
  ];
}

const suggestion = (key: string, stage: Stage, says: string, remedy: Remark['remedy'] = null): Remark => ({
  key,
  weight: 'suggestion',
  place: inStage(stage.id),
  says,
  witness: null,
  remedy,
});

const tooMany = (count: number): Remark => ({
  key: `many stages ${count}`,
  weight: 'suggestion',
  place: WHOLE_PROCESS,
  says: `There are ${count} stages. More than ${FEW_STAGES} are rarely told apart; what can be skipped is a step or a checklist item rather than a stage.`,
  witness: null,
  remedy: null,
});

function falling(stage: Stage, before: Stage | undefined): readonly Remark[] {
  if (!before || stage.chance >= before.chance) return [];
  return [
    {
      key: `falling chance ${stage.id}`,
      weight: 'warning',
      place: inStage(stage.id),
      says: `The chance of winning falls from ${before.chance}% in ${before.name} to ${stage.chance}% in ${stage.name}, though the deal has come further.`,
      witness: null,
      remedy: {
        name: `Set it to ${before.chance}%`,
        edits: [{ kind: 'change_stage', stage: stage.id, change: { chance: before.chance } }],
      },
    },
  ];
}

function asking(stage: Stage): readonly Remark[] {
  const { id, name, enter, leave, checklist, steps } = stage;
  if (enter.length + leave.length + checklist.length + steps.length === 0)
    return [
      suggestion(`asks nothing ${id}`, stage, `${name} asks for nothing, so nothing tells when a deal has come here.`),
    ];
  const musts =
    [...enter, ...leave].filter(({ level }) => level === 'hold').length +
    checklist.filter(({ need, level }) => need === 'must' && level === 'hold').length;
  if (musts <= MANY_MUSTS) return [];
  return [
    suggestion(
      `many musts ${id} ${musts}`,
      stage,
      `${name} holds deals for ${musts} things. More than a dozen in one stage are rarely kept up.`,
    ),
  ];
}

/** Whether the stage's numbers, and the stage itself, fit what past deals did. */
function fitting(stage: Stage, evidence: StageEvidence, calendar: Calendar): readonly Remark[] {
  return [...skipped(stage, evidence), ...late(stage, evidence, calendar), ...hopeful(stage, evidence)];
}

const percent = (share: number): number => Math.round(share * 100);

function skipped(stage: Stage, { entered, skipped: passed }: StageEvidence): readonly Remark[] {
  const share = wilson(passed, passed + entered);
  if (!share || passed + entered < ENOUGH_DEALS || share.share < OFTEN_SKIPPED) return [];
  const says = `${passed} of ${passed + entered} deals that came past ${stage.name} in the last year skipped it (${percent(share.share)}%).`;
  return [suggestion(`skipped ${stage.id}`, stage, says)];
}

function late(stage: Stage, { staysEnded, medianDays }: StageEvidence, calendar: Calendar): readonly Remark[] {
  const { id, name, target } = stage;
  if (!target || medianDays === null || staysEnded < ENOUGH_DEALS) return [];
  const targetDays = calendarDaysOf(target, calendar);
  if (medianDays < targetDays * FAR_IN_DAYS && medianDays * FAR_IN_DAYS > targetDays) return [];
  const days = Math.max(1, Math.round((medianDays * target.days) / targetDays));
  const [set, found] = [dayCountWords(target), dayCountWords({ ...target, days })];
  return [
    suggestion(
      `target ${id} ${target.days} ${target.counting}`,
      stage,
      `${name} is to be left within ${set}; half of the ${staysEnded} deals that left it in the last year took ${found} or more.`,
      {
        name: `Set it to ${found}`,
        edits: [{ kind: 'change_stage', stage: id, change: { target: { ...target, days } } }],
      },
    ),
  ];
}

function hopeful(stage: Stage, { closed, won }: StageEvidence): readonly Remark[] {
  const { id, name, chance } = stage;
  const share = wilson(won, closed);
  if (!share || closed < ENOUGH_DEALS) return [];
  const isFar = Math.abs(share.share - chance / 100) >= FAR_IN_CHANCE;
  if (!isFar || (chance / 100 >= share.low && chance / 100 <= share.high)) return [];
  const found = percent(share.share);
  return [
    suggestion(
      `chance ${id} ${chance}`,
      stage,
      `The chance of winning from ${name} is set to ${chance}%; of ${closed} deals that were there and closed in the last year ${won} were won (${found}%, 95% interval ${percent(share.low)} to ${percent(share.high)}%).`,
      { name: `Set it to ${found}%`, edits: [{ kind: 'change_stage', stage: id, change: { chance: found } }] },
    ),
  ];
}
