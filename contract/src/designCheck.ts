import { day, instant, integer, list, named, nullable, number, object, processId, stageId, text } from './schema.ts';

/** What a remark is called by: ids of the design, and words. */
const remarkKey = () => text({ max: 2_000 });

export const designCheck = {
  evidence: named(
    'DesignEvidence',
    object({
      calendar: object({ workingWeekdays: list(integer(1, 7)), holidays: list(day()) }),
      stages: list(
        object({
          stage: stageId(),
          entered: integer(0),
          skipped: integer(0),
          staysEnded: integer(0),
          medianDays: nullable(number()),
          closed: integer(0),
          won: integer(0),
        }),
      ),
    }),
  ),
  dismissals: object({ items: list(object({ remark: remarkKey(), reason: text(), by: text(), at: instant() })) }),
  dismissal: object({ remark: remarkKey(), reason: nullable(text({ max: 500 })) }),
  counts: object({ items: list(object({ process: processId(), problems: integer(0), warnings: integer(0) })) }),
};
