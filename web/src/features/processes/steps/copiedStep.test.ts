import { newResult, newStep, type StageId } from '@ladder/core';
import { documentOf, stage } from '@ladder/core/testing/builders.ts';
import { expect, it } from 'vitest';
import { copiedStep } from './copiedStep.ts';

it('leads nowhere that the other stage or process does not have, and ticks nothing that is not there', () => {
  const named = (id: string) => newResult({ id, name: id });
  const step = {
    ...newStep('s', 'Walk', { id: 'r', name: 'r' }),
    results: [
      { ...named('same'), leads: { to: 'step', step: 's' } as const },
      { ...named('away'), leads: { to: 'stage', stage: 'gone' as StageId } as const },
      { ...named('back'), leads: { to: 'stage', stage: 'a' as StageId } as const },
      { ...named('lost'), leads: { to: 'outcome', outcome: 'lost', reason: null } as const },
      { ...named('acts'), actions: [{ do: 'tick', item: 'x' } as const, { do: 'note', text: 'n' } as const] },
    ],
  };
  const there = stage('b', { steps: [newStep('t', 'walk', { id: 'r', name: 'r' })] });
  const copy = copiedStep(step, documentOf([stage('a'), there]), there);
  expect(copy.id).not.toBe('s');
  expect(copy.name).toBe('Walk 2');
  expect(copy.results.map(({ leads }) => leads.to)).toEqual(['next', 'next', 'stage', 'outcome', 'next']);
  expect(copy.results[4]?.actions).toEqual([{ do: 'note', text: 'n' }]);
});
