import { type Catalogue, type Field, writeFormula } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { logSetting, type Setter, type SettingChange } from '../settingsLog/settingsLog.ts';

/** Keeps how a field was before and after; null before where it is new. */
export const logField = (
  tx: EntityManager,
  before: Field | null,
  after: Field,
  catalogue: Catalogue,
  setter: Setter,
): Promise<void> =>
  logSetting(
    tx,
    {
      what: 'field',
      subject: `${after.name}, of the ${after.holder}`,
      before: before && told(before, catalogue),
      after: told(after, catalogue),
    },
    setter,
  );

function told(field: Field, catalogue: Catalogue): SettingChange['after'] {
  const { name, type, unit, help, min, max, firstDay, lastDay, choices, formula } = field;
  return {
    name,
    type: type.replace('_', ' '),
    unit: unit ?? null,
    help: help || null,
    'at least': min ?? null,
    'at most': max ?? null,
    'not before': firstDay ?? null,
    'not after': lastDay ?? null,
    ...(choices
      ? { choices: choices.map((choice) => (choice.withdrawn ? `${choice.name} (withdrawn)` : choice.name)) }
      : {}),
    ...(formula ? { formula: writeFormula(formula, catalogue) } : {}),
  };
}
