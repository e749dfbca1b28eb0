import { describe, expect, it } from 'vitest';
import { expectedFindings } from '../compliance/expectedFindings.ts';
import type { StageId } from '../ids.ts';
import { at, DAY, dealIn, documentOf, must, NOW, needs, settingOf, stage } from '../testing/builders.ts';
import { andThen } from './andThen.ts';
import { changeBy } from './change.ts';
import { editStep } from './edit.ts';
import { moveStep } from './move.ts';
import { renameStep } from './rename.ts';
import { tickStep } from './tick.ts';

const tick = { id: 'tick', text: 'Called', need: 'must', level: 'hold', afterReturn: 'keep' } as const;
const document = documentOf([stage('a', { checklist: [tick] }), stage('b', { enter: [needs('crop', 'crop')] })]);
const setting = settingOf(document);
const crop = (value: string | null, saw: string | null = null) => editStep(setting, [{ field: 'crop', saw, value }]);
const toB = moveStep(setting, {
  target: { to: 'stage', stage: 'b' as StageId },
  mode: 'ask',
  text: null,
  reason: null,
  followUp: null,
});

describe('steps that follow each other', () => {
  const deal = dealIn(setting);

  it('are one change: one revision, one moment, the records of all, judged as the deal is after the last', () => {
    const step = andThen(
      andThen(andThen(crop('herbs'), renameStep('Renamed')), tickStep(setting, 'tick', 'ticked')),
      toB,
    );
    const { deal: after, records } = must(changeBy(deal, setting, at(NOW + DAY), step));
    expect(after.revision).toBe(deal.revision + 1);
    expect(after).toMatchObject({ name: 'Renamed', values: { crop: 'herbs' }, settledAt: NOW + DAY });
    const kinds = records.flatMap((record) => (record.kind === 'journal' ? [record.entry.body.kind] : []));
    expect(kinds).toEqual(['edited', 'renamed', 'ticked', 'moved']);
    expect(after.findings).toEqual(expectedFindings(after, setting, NOW + DAY).findings);
  });

  it('leave no finding of what was so only between them', () => {
    const standing = must(
      changeBy(deal, setting, at(NOW), andThen(andThen(crop('herbs'), tickStep(setting, 'tick', 'ticked')), toB)),
    ).deal;
    const step = andThen(crop(null, 'herbs'), crop('tomatoes'));
    const { deal: after } = must(changeBy(standing, setting, at(NOW + DAY), step));
    expect(after.values.crop).toBe('tomatoes');
    expect(after.findings).toEqual([]);
    expect(must(changeBy(standing, setting, at(NOW + DAY), crop(null, 'herbs'))).deal.findings).toHaveLength(1);
  });

  it('change nothing where one of them cannot be made, or none changes anything', () => {
    const refused = changeBy(deal, setting, at(NOW), andThen(renameStep('Renamed'), crop('wheat')));
    expect(refused).toMatchObject({ ok: false, error: [{ code: 'bad_value', field: 'crop' }] });
    const nothing = must(changeBy(deal, setting, at(NOW + DAY), andThen(renameStep(deal.name), crop(null))));
    expect(nothing.deal).toBe(deal);
    expect(nothing.records).toEqual([]);
  });

  it('raise no revision where no gate can read what they change', () => {
    expect(must(changeBy(deal, setting, at(NOW), renameStep('Renamed'))).deal.revision).toBe(deal.revision);
  });
});
