import { describe, expect, it } from 'vitest';
import { catalogueOf, type Field } from '../facts/field.ts';
import type { Requirement } from '../requirements/kinds.ts';
import { documentOf, stage } from '../testing/builders.ts';
import { guided, result } from '../testing/steps.ts';
import { MONDAY_TO_FRIDAY } from '../time/calendar.ts';
import { type Present, type ProcessFile, planFile } from './processFile.ts';

const crop: Field = {
  id: 'crop',
  name: 'Crop',
  holder: 'deal',
  type: 'choice',
  choices: [
    { id: 'a', name: 'Herbs' },
    { id: 'b', name: 'Ferns' },
  ],
};
const area: Field = { id: 'area', name: 'Area', holder: 'deal', type: 'number', unit: 'm²' };
const yield_: Field = {
  id: 'yield',
  name: 'Yield',
  holder: 'deal',
  type: 'calculated',
  formula: { kind: 'divide', left: { kind: 'field', field: 'area' }, right: { kind: 'number', value: 2 } },
};
const asks: Requirement = {
  id: 'r',
  level: 'hold',
  binds: 'at_move',
  kind: 'criterion',
  criterion: { kind: 'one_of', left: { of: 'field', field: 'crop' }, values: ['a', 'b'] },
};
const process = documentOf(
  [
    stage('only', {
      enter: [asks, { id: 'd', level: 'hold', binds: 'must_stay', kind: 'document', document: 'plan' }],
      steps: [
        guided('call', {
          who: { by: 'person', person: 'gone' },
          captures: [{ field: 'area', need: 'must' }],
          results: [
            result(
              'done',
              { to: 'next' },
              {
                actions: [
                  { do: 'set_field', field: 'crop', set: { to: 'value', value: 'b' } },
                  { do: 'message', template: 'thanks', how: 'at_once' },
                ],
              },
            ),
          ],
        }),
      ],
    }),
  ],
  { sections: [{ id: 'main', name: 'Deal', fields: ['value', 'crop', 'yield'] }] },
);
const file: ProcessFile = {
  format: 1,
  process,
  fields: [yield_, crop, area],
  documentKinds: [{ id: 'plan', name: 'Plan' }],
  reasons: [],
  calendar: { name: 'Usual', ...MONDAY_TO_FRIDAY },
};
const present = (fields: readonly Field[], more: Partial<Present> = {}): Present => ({
  catalogue: catalogueOf(fields),
  documentKinds: [],
  calendars: [],
  people: new Set(),
  templates: new Set(),
  ...more,
});
let next = 0;
const plan = (there: Present) =>
  planFile(
    file,
    there,
    () => `new_${next++}`,
    () => 'new_kind',
  );

describe('a process from a file', () => {
  it('has everything made where nothing is there, a formula’s parts before it; people and templates are left', () => {
    const { fields, documentKinds, calendar, left, document } = plan(present([]));
    expect(fields.map(({ field, how }) => `${field.id} ${how}`)).toEqual(['area made', 'yield made', 'crop made']);
    expect(documentKinds).toEqual([{ id: 'new_kind', name: 'Plan', how: 'made' }]);
    expect(calendar).toMatchObject({ how: 'made', calendar: { name: 'Usual' } });
    expect(left).toHaveLength(2);
    const [only] = document.stages;
    expect(only?.steps[0]).toMatchObject({ who: { by: 'owner' }, results: [{ actions: [{ do: 'set_field' }] }] });
    expect(only?.enter[1]).toMatchObject({ document: 'new_kind' });
  });

  it('is itself where all of it is there', () => {
    const there = present([crop, area, yield_], {
      documentKinds: [{ id: 'plan', name: 'Plan' }],
      calendars: [{ id: 'c', name: 'Ours', ...MONDAY_TO_FRIDAY }],
      people: new Set(['gone']),
      templates: new Set(['thanks']),
    });
    const { document, fields, calendar, left } = plan(there);
    expect(document).toEqual(process);
    expect(fields.every(({ how, added }) => how === 'matched' && added.length === 0)).toBe(true);
    expect(calendar).toEqual({ how: 'matched', id: 'c', name: 'Ours' });
    expect(left).toEqual([]);
  });

  it('takes a field of the same name, its choices by their names, and adds those that it lacks', () => {
    const theirs: Field = { ...crop, id: 'plants', choices: [{ id: 'h', name: 'herbs' }] };
    const { document, fields } = plan(present([theirs]));
    const planned = fields.find(({ field }) => field.id === 'plants');
    expect(planned).toMatchObject({
      how: 'matched',
      added: [{ id: 'b', name: 'Ferns' }],
      field: { choices: [{ id: 'h' }, { id: 'b' }] },
    });
    expect(document.stages[0]?.enter[0]).toMatchObject({
      criterion: { left: { field: 'plants' }, values: ['h', 'b'] },
    });
    expect(document.sections[0]?.fields).toEqual(['value', 'plants', 'yield']);
  });

  it('never takes one of another type, unit or holder for its own, whatever it is called', () => {
    const { document, fields } = plan(present([{ ...area, unit: 'ha' }]));
    const made = fields.find(({ field }) => field.name === 'Area (from the file)');
    expect([made?.how, made?.field.id]).not.toContain('area');
    expect(document.stages[0]?.steps[0]?.captures[0]?.field).toBe(made?.field.id);
    expect(fields.find(({ field }) => field.id === 'yield')?.field.formula).toMatchObject({
      left: { field: made?.field.id },
    });
  });

  it('has a calendar of its own beside one that is called like it and has other days', () => {
    const other = { id: 'c', name: 'usual', workingWeekdays: [1, 2], holidays: [] };
    expect(plan(present([], { calendars: [other] })).calendar).toMatchObject({
      how: 'made',
      calendar: { name: 'Usual 2' },
    });
  });
});
