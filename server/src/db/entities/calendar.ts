import { EntitySchema } from 'typeorm';

export interface CalendarRow {
  id: string;
  name: string;
  workingWeekdays: readonly number[];
  holidays: readonly string[];
  /** What they are called, by day. */
  holidayNames: Readonly<Record<string, string>>;
}

export const CalendarEntity = new EntitySchema<CalendarRow>({
  name: 'calendar',
  tableName: 'calendars',
  columns: {
    id: { type: 'uuid', primary: true },
    name: { type: 'text' },
    workingWeekdays: { type: 'smallint', array: true },
    holidays: { type: 'date', array: true, default: () => "'{}'" },
    holidayNames: { type: 'jsonb', default: () => "'{}'" },
  },
  uniques: [{ name: 'calendars_name_key', columns: ['name'] }],
});
