import { type CompiledCriterion, compile, compileTerm } from '../criteria/compile.ts';
import type { Catalogue } from '../facts/field.ts';
import type { GateItem } from './item.ts';
import type { GateAnswer, GateFacts } from './verdict.ts';

/** A gate made ready to judge whole books of deals; gives the answers of `judgeGate` without explaining them. */
export interface CompiledGate {
  readonly answer: (facts: GateFacts) => GateAnswer;
  /** How many holding items are in the way. */
  readonly missing: (facts: GateFacts) => number;
}

type OpenTest = (facts: GateFacts) => boolean;

/** Compiles the items of a gate over the catalogue's types. */
export function compileGate(items: readonly GateItem[], catalogue: Catalogue): CompiledGate {
  const holding = items.filter(({ level }) => level === 'hold').map((item) => compileItem(item, catalogue));
  const flagging = items.filter(({ level }) => level === 'flag').map((item) => compileItem(item, catalogue));
  return {
    answer: (facts) => {
      for (const isOpen of holding) if (isOpen(facts)) return 'holds';
      for (const isOpen of flagging) if (isOpen(facts)) return 'flags';
      return 'passes';
    },
    missing: (facts) => {
      let count = 0;
      for (const isOpen of holding) if (isOpen(facts)) count++;
      return count;
    },
  };
}

function compileItem(item: GateItem, catalogue: Catalogue): OpenTest {
  const isOpen = compileState(item, catalogue);
  const applies: CompiledCriterion | null = item.appliesWhen ? compile(item.appliesWhen, catalogue) : null;
  const id = item.id;
  if (!applies) return (facts) => isOpen(facts) && !facts.waived.has(id);
  return (facts) => applies(facts) !== false && isOpen(facts) && !facts.waived.has(id);
}

function compileState(item: GateItem, catalogue: Catalogue): OpenTest {
  switch (item.kind) {
    case 'criterion': {
      const test = compile(item.criterion, catalogue);
      return (facts) => test(facts) !== true;
    }
    case 'field': {
      const read = compileTerm({ of: 'field', field: item.field });
      return (facts) => read(facts) === null;
    }
    case 'checklist': {
      const id = item.id;
      return (facts) => !facts.ticked.has(id);
    }
    case 'decision':
      return () => true;
  }
}
