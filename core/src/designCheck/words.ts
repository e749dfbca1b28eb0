import { operandField } from '../criteria/operands.ts';
import { valueText } from '../criteria/phrase.ts';
import type { Example } from '../criteria/satisfy/satisfy.ts';
import { stageOf } from '../processes/document.ts';
import { namesWith } from '../processes/documentNames.ts';
import { describeItem } from '../requirements/describeItem.ts';
import type { GateItem } from '../requirements/kinds.ts';
import { resultKey } from '../steps/step.ts';
import type { Design } from './remark.ts';

/** What an item asks, in quotation marks. */
export function quoted(item: GateItem, { document, catalogue, nameOf }: Design): string {
  const pieces = describeItem(item, catalogue, namesWith(document, nameOf));
  return `“${pieces.map(({ text }) => text).join('')}”`;
}

/** Where an item is asked, in words. */
export function askedIn(item: GateItem, { document }: Design): string {
  const stage = item.stage ? stageOf(document, item.stage) : undefined;
  if (stage) return item.at === 'enter' ? `to enter ${stage.name}` : `before leaving ${stage.name}`;
  const outcome = document.outcomes.find(({ requirements }) => requirements.some(({ id }) => id === item.id));
  return `to close as ${outcome?.name ?? 'an outcome that is gone'}`;
}

/** An example's values: `Glazed area 400 m², Crop not filled`. Empty where anything will do. */
export function exampleWords({ given, day }: Example, { document, catalogue, nameOf }: Design): string {
  const names = namesWith(document, nameOf);
  return given
    .map(({ operand, value }) => {
      const field = operandField(operand, catalogue, names) ?? undefined;
      const nameIn = (id: string): string | undefined =>
        (operand.of === 'step' ? names(resultKey(operand.step, id)) : undefined) ??
        names(id) ??
        (id.startsWith('other ') ? 'another' : undefined);
      return `${field?.name ?? 'a field that is gone'} ${valueText(value, field, nameIn)}`;
    })
    .sort()
    .join(', ')
    .concat(
      given.some(({ operand }) => operand.of === 'field' && catalogue.get(operand.field)?.type === 'date')
        ? ` (on ${valueText(day, { id: '', name: '', holder: 'deal', type: 'date' }, names)})`
        : '',
    );
}

/** Things one after the other: `a, b and c`. */
export function listed(things: readonly string[]): string {
  const last = things.at(-1) ?? '';
  return things.length > 1 ? `${things.slice(0, -1).join(', ')} and ${last}` : last;
}
