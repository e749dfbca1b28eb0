import { describe, expect, it } from 'vitest';
import type { Criterion } from '../criteria/criterion.ts';
import { catalogueOf, type Field } from '../facts/field.ts';
import type { FactValue } from '../facts/value.ts';
import type { StageId } from '../ids.ts';
import type { ProcessDocument } from '../processes/document.ts';
import { applyEdit } from '../processes/edit.ts';
import type { ChecklistItem } from '../requirements/checklist.ts';
import type { Requirement } from '../requirements/kinds.ts';
import { documentOf, FIELDS, needs, stage, TODAY, wonAsking } from '../testing/builders.ts';
import { guided, result } from '../testing/steps.ts';
import { MONDAY_TO_FRIDAY } from '../time/calendar.ts';
import { checkDesign, publishProblems } from './designCheck.ts';
import type { Design, Remark, StageEvidence } from './remark.ts';

const MORE: readonly Field[] = [
  { id: 'glass', name: 'Glass', holder: 'deal', type: 'number', min: 0, max: 100 },
  {
    id: 'share',
    name: 'Share',
    holder: 'deal',
    type: 'calculated',
    formula: { kind: 'divide', left: { kind: 'field', field: 'area' }, right: { kind: 'field', field: 'glass' } },
  },
];
const catalogue = catalogueOf([...FIELDS, ...MORE]);
const SECTIONS = [
  { id: 'main', name: 'Deal', fields: ['area', 'survey', 'crop', 'paid', 'notes', 'glass', 'close_date'] },
];

const of = (field: string) => ({ of: 'field' as const, field });
const value = (is: FactValue) => ({ of: 'value' as const, value: is });
const atLeast = (field: string, is: FactValue): Criterion => ({ kind: 'at_least', left: of(field), right: value(is) });
const atMost = (field: string, is: FactValue): Criterion => ({ kind: 'at_most', left: of(field), right: value(is) });
const asks = (id: string, criterion: Criterion, more: Partial<Requirement> = {}): Requirement =>
  ({ id, level: 'hold', binds: 'at_move', kind: 'criterion', criterion, ...more }) as Requirement;
const item = (id: string): ChecklistItem => ({ id, text: id, need: 'must', level: 'hold', afterReturn: 'keep' });

/** It, which is there. */
function sure<T>(found: T | undefined): T {
  if (found === undefined) throw new Error('It is not there');
  return found;
}

const designOf = (document: Partial<ProcessDocument>, more: Partial<Design> = {}): Design => ({
  document: documentOf([stage('Brief'), stage('Survey'), stage('Offer')], { sections: SECTIONS, ...document }),
  catalogue,
  nameOf: () => undefined,
  today: TODAY,
  people: null,
  evidence: [],
  calendar: MONDAY_TO_FRIDAY,
  ...more,
});
const stages = (...list: readonly Parameters<typeof stage>[1][]) => ({
  stages: ['Brief', 'Survey', 'Offer'].map((name, place) => stage(name, list[place])),
});
/** What is said, but for suggestions. */
const said = (design: Design): readonly Remark[] =>
  checkDesign(design).remarks.filter(({ weight }) => weight !== 'suggestion');
const onlyRemark = (design: Design): Remark => {
  const [remark, ...others] = said(design);
  expect(others).toEqual([]);
  return sure(remark);
};

describe('gates that cannot be met', () => {
  it('names both requirements, the later one in its place, with values that meet the one and not the other', () => {
    const design = designOf(
      stages({ leave: [asks('a', atLeast('area', 500))] }, { enter: [asks('b', atMost('area', 400))] }),
    );
    expect(onlyRemark(design)).toEqual({
      key: 'contradiction a b',
      weight: 'problem',
      place: { stage: 'Survey', outcome: null, part: 'b' },
      says: 'No deal can come to Survey: “Glazed area is at most 400\u00a0m²” cannot be met together with “Glazed area is at least 500\u00a0m²”, asked before leaving Brief.',
      witness: 'With Glazed area 500\u00a0m², the other is met, and this is not.',
      remedy: null,
    });
    expect(publishProblems(design).map(({ pointer }) => pointer)).toEqual(['/stages/1/enter/0']);
  });

  it('counts what earlier stages demand to stay so, and not what they judged at the move', () => {
    const until = (binds: 'must_stay' | 'at_move') =>
      designOf(
        stages(
          { enter: [asks('a', atLeast('area', 500), { binds })] },
          {},
          { enter: [asks('b', atMost('area', 400))] },
        ),
      );
    expect(said(until('must_stay')).map(({ key }) => key)).toEqual(['contradiction a b']);
    expect(said(until('at_move'))).toEqual([]);
  });

  it('finds three that only together cannot be met, and leaves out a fourth', () => {
    const enter = [
      asks('a', { kind: 'any', of: [atLeast('area', 500), { kind: 'equals', left: of('paid'), right: value(true) }] }),
      asks('b', atMost('area', 400)),
      asks('other', { kind: 'one_of', left: of('crop'), values: ['herbs'] }),
      asks('c', { kind: 'equals', left: of('paid'), right: value(false) }),
    ];
    expect(onlyRemark(designOf(stages({}, { enter }))).key).toBe('contradiction a b c');
  });

  it('tells each of several apart', () => {
    const enter = [
      asks('a', atLeast('area', 500)),
      asks('b', atMost('area', 400)),
      asks('c', { kind: 'one_of', left: of('crop'), values: ['herbs'] }),
      asks('d', { kind: 'one_of', left: of('crop'), values: ['tomatoes'] }),
    ];
    expect(
      said(designOf(stages({}, { enter })))
        .map(({ key }) => key)
        .sort(),
    ).toEqual(['contradiction a b', 'contradiction c d']);
  });

  it('tells nothing more of one whose field is gone than that', () => {
    const enter = [asks('a', atLeast('gone', 1)), asks('b', atLeast('area', 500))];
    expect(said(designOf(stages({}, { enter }))).map(({ says }) => says)).toEqual([
      'This field is no longer in the catalogue. Choose another.',
    ]);
  });

  it('one that nothing meets, for what may be filled in has bounds; where it is for some only, the others pass', () => {
    const glass = atLeast('glass', 101);
    expect(onlyRemark(designOf(stages({}, { enter: [asks('a', glass)] }))).says).toBe(
      'Nothing that a deal can be meets “Glass is at least 101”.',
    );
    const appliesWhen: Criterion = { kind: 'one_of', left: of('crop'), values: ['herbs'] };
    expect(said(designOf(stages({}, { enter: [asks('a', glass, { appliesWhen })] })))).toEqual([]);
  });

  it('to close as won, not as lost', () => {
    const leave = [asks('a', atLeast('area', 500), { binds: 'must_stay' })];
    const design = designOf({ ...stages({}, {}, { leave }), outcomes: wonAsking(asks('b', atMost('area', 400))) });
    expect(onlyRemark(design).place).toEqual({ stage: null, outcome: 'won', part: 'b' });
  });
});

describe('requirements that ask nothing more', () => {
  const field = needs('field', 'area');
  it('follows from one of the same gate that binds as long', () => {
    const by = (more: Partial<Requirement>) =>
      said(designOf(stages({}, { enter: [asks('a', atLeast('area', 500), more), field] }))).map(({ says }) => says);
    expect(by({ binds: 'must_stay' })).toEqual([
      '“Glazed area is filled” asks nothing more: it follows from “Glazed area is at least 500\u00a0m²”, asked to enter Survey.',
    ]);
    expect(by({ binds: 'at_move' })).toEqual([]);
    expect(by({ binds: 'must_stay', level: 'flag' })).toEqual([]);
  });

  it('is asked before leaving and again on entering; taken out, nothing is said any more', () => {
    const design = designOf(stages({ leave: [needs('one', 'area')] }, { enter: [needs('two', 'area')] }));
    const remark = onlyRemark(design);
    expect(remark.says).toBe('“Glazed area is filled” is asked before leaving Brief and again to enter Survey.');
    const edited = applyEdit(design.document, sure(remark.remedy?.edits[0]));
    expect(said({ ...design, document: edited.ok ? edited.value : design.document })).toEqual([]);
  });

  it('is true of whatever is filled in, unless it asks whether it is', () => {
    const always: Criterion = { kind: 'any', of: [atLeast('area', 10), atMost('area', 20)] };
    expect(onlyRemark(designOf(stages({}, { enter: [asks('a', always)] }))).says).toMatch(/is always true once filled/);
    expect(said(designOf(stages({}, { enter: [asks('a', { kind: 'set', left: of('area') })] })))).toEqual([]);
  });

  it('is never asked', () => {
    const appliesWhen: Criterion = { kind: 'all', of: [atLeast('glass', 50), atMost('glass', 40)] };
    expect(onlyRemark(designOf(stages({}, { enter: [needs('a', 'area', { appliesWhen })] }))).says).toMatch(
      /is asked of no deal/,
    );
  });
});

describe('fields', () => {
  it('that no screen shows keep a design from being published, until they are listed', () => {
    const design = designOf({ ...stages({}, { enter: [needs('a', 'area')] }), sections: [] });
    const [remark] = publishProblems(design);
    expect(remark).toEqual({
      pointer: '/stages/1/enter/0',
      detail: '“Glazed area is filled” needs Glazed area, which no screen of the process shows.',
    });
    const sections = { ...design.document, sections: [{ id: 'x', name: 'X', fields: [] }] };
    const listed = applyEdit(sections, sure(onlyRemark({ ...design, document: sections }).remedy?.edits[0]));
    expect(listed.ok && publishProblems({ ...design, document: listed.value })).toEqual([]);
  });

  it('that steps come before, and none fills', () => {
    const steps = [guided('call')];
    const late = (captures: readonly { field: string; need: 'must' }[]) =>
      said(designOf(stages({ steps: [{ ...sure(steps[0]), captures }] }, { enter: [needs('a', 'area')] })));
    expect(late([]).map(({ key }) => key)).toEqual(['late field a area']);
    expect(late([{ field: 'area', need: 'must' }])).toEqual([]);
  });

  it('that divide by what may be nothing', () => {
    const sections = [{ id: 'main', name: 'Deal', fields: ['share'] }];
    expect(onlyRemark(designOf({ sections })).says).toMatch(/^Share divides by Glass, which may be 0/);
    const filled = catalogueOf([...FIELDS, { ...sure(MORE[0]), min: 1 }, sure(MORE[1])]);
    expect(said(designOf({ sections }, { catalogue: filled }))).toEqual([]);
  });
});

describe('steps', () => {
  it('that go round without a way out are a problem; those nobody comes to are taken out', () => {
    const round = [
      guided('a', { results: [result('done', { to: 'step', step: 'b' })] }),
      guided('b', { results: [result('done', { to: 'step', step: 'a' })] }),
      guided('c'),
    ];
    const remarks = said(designOf(stages({ steps: round })));
    expect(remarks.map(({ weight, key }) => `${weight} ${key}`)).toEqual([
      'problem endless a',
      'problem endless b',
      'warning unreachable c',
    ]);
    expect(remarks[2]?.remedy?.edits).toEqual([{ kind: 'remove_step', stage: 'Brief', step: 'c' }]);
  });

  it('that a gate asks for before a deal can have come to them', () => {
    const steps = { id: 's', level: 'hold', binds: 'at_move', kind: 'steps', of: 'Offer' } as const;
    expect(onlyRemark(designOf(stages({}, { enter: [steps] }, { steps: [guided('call')] }))).says).toMatch(
      /cannot be reached: a deal comes to Offer only later/,
    );
  });

  it('of someone who has left, or of a role that nobody has', () => {
    const who = { ...guided('a'), who: { by: 'person', person: 'gone' } } as const;
    const role = { ...guided('b'), who: { by: 'role', role: 'manager' } } as const;
    const people = [{ id: 'here', role: 'seller' as const }];
    expect(said(designOf(stages({ steps: [who, role] }), { people })).map(({ says }) => says)).toEqual([
      '“a” falls to somebody who has left.',
      '“b” falls to a role that nobody has.',
    ]);
  });
});

describe('common practice', () => {
  const suggested = (design: Design): readonly string[] =>
    checkDesign(design).remarks.flatMap(({ weight, says }) => (weight === 'suggestion' ? [says] : []));
  const busy = { checklist: [item('seen')] };

  it('few stages, each asking for something, none for too much', () => {
    const many = Array.from({ length: 8 }, (_, place) => stage(`S${place}`, { checklist: [item(`i${place}`)] }));
    expect(suggested(designOf({ stages: many }))).toHaveLength(1);
    expect(suggested(designOf(stages(busy, { checklist: [item('other')] }, {})))).toEqual([
      'Offer asks for nothing, so nothing tells when a deal has come here.',
    ]);
    const checklist = Array.from({ length: 13 }, (_, place) => item(`m${place}`));
    expect(suggested(designOf({ stages: [stage('Brief', { checklist })] }))).toEqual([
      'Brief holds deals for 13 things. More than a dozen in one stage are rarely kept up.',
    ]);
  });

  it('numbers that fit what past deals did, told with the figures', () => {
    const evidence: StageEvidence = {
      stage: 'Brief' as StageId,
      entered: 40,
      skipped: 20,
      staysEnded: 38,
      medianDays: 26,
      closed: 40,
      won: 8,
    };
    const document = { stages: [stage('Brief', { ...busy, chance: 60 })] };
    expect(suggested(designOf(document, { evidence: [evidence] }))).toEqual([
      '20 of 60 deals that came past Brief in the last year skipped it (33%).',
      'Brief is to be left within 10 days; half of the 38 deals that left it in the last year took 26 days or more.',
      // Wilson's interval of 8 in 40, as scipy.stats.binomtest(8, 40).proportion_ci(method='wilson') gives it (from memory): 0.105 to 0.348.
      'The chance of winning from Brief is set to 60%; of 40 deals that were there and closed in the last year 8 were won (20%, 95% interval 10 to 35%).',
    ]);
    expect(
      suggested(designOf(document, { evidence: [{ ...evidence, entered: 9, skipped: 0, staysEnded: 9, closed: 9 }] })),
    ).toEqual([]);
  });

  it('a chance that falls along the ladder is a warning', () => {
    const remark = onlyRemark(designOf(stages({ ...busy, chance: 50 }, { chance: 40 })));
    expect(remark.remedy?.edits).toEqual([{ kind: 'change_stage', stage: 'Survey', change: { chance: 50 } }]);
  });
});
