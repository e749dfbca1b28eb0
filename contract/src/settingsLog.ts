import { instant, list, named, nullable, object, oneOf, page, text } from './schema.ts';

/** Settings of the whole organisation of which changes are kept. */
export const SETTINGS_LOGGED = ['account', 'team', 'rate', 'document_kind', 'template', 'field', 'calendar'] as const;
export type SettingLogged = (typeof SETTINGS_LOGGED)[number];

const words = () => nullable(text({ min: 0, max: 2_000 }));
/** Each part that was changed, in words; null before it was, or after it was taken away. */
export const settingChanges = list(object({ part: text(), before: words(), after: words() }));

const entry = named(
  'SettingsChange',
  object({
    id: text(),
    at: instant(),
    by: text(),
    what: oneOf(SETTINGS_LOGGED),
    subject: text({ max: 400 }),
    changes: settingChanges,
  }),
);

export const settingsLog = { entry, page: page(entry) };
