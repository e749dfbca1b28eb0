import { dateText, type NameOf, type Piece, valueText } from '../criteria/phrase.ts';
import type { Catalogue } from '../facts/field.ts';
import type { FactValue } from '../facts/value.ts';
import { type ProcessDocument, stageOf } from '../processes/document.ts';
import type { JournalBody } from './record.ts';

const strong = (text: string): Piece => ({ text, strong: true });
const plain = (text: string): Piece => ({ text, strong: false });

interface Words {
  readonly document: ProcessDocument;
  readonly catalogue: Catalogue;
  readonly nameOf: NameOf;
}

/** A journal entry in words; its free text stands beside it. */
export function describeEntry(body: JournalBody, words: Words): readonly Piece[] {
  const stage = (id: string | null): string =>
    id === null ? 'the end' : (stageOf(words.document, id)?.name ?? 'a stage that is gone');
  const target = (text: string): string =>
    text.startsWith('stage:') ? stage(text.slice('stage:'.length)) : text === 'won' ? 'Won' : 'Lost';
  switch (body.kind) {
    case 'created':
      return [plain('Begun in '), strong(stage(body.stage))];
    case 'imported':
      return [plain('Imported into '), strong(stage(body.stage))];
    case 'edited':
      return body.changes.flatMap((change, place) => [
        ...(place > 0 ? [plain(' · ')] : []),
        ...editWords(change, words),
      ]);
    case 'renamed':
      return [strong('Name'), plain(` ${body.before} → ${body.after}`)];
    case 'ticked':
      return [strong(body.text), plain(' ticked')];
    case 'unticked':
      return [strong(body.text), plain(' unticked')];
    case 'moved':
      return moveWords(body, stage);
    case 'refused':
      return [
        strong(`Move to ${target(body.target)}`),
        plain(` refused: ${countOf(body.open.length, 'requirement')} open`),
      ];
    case 'attempt_withdrawn':
      return [plain('Gave up moving to '), strong(target(body.target))];
    case 'taken_back':
      return [strong('Taken back'), plain(`: ${moveName(body.move, stage(body.from), stage(body.to))}`)];
    case 'activity':
      return [];
    case 'version_changed':
      return [plain('Moved over to a newer version of the process')];
    case 'follow_up_changed':
      return [strong('Follow-up'), plain(` ${dayText(body.before)} → ${dayText(body.after)}`)];
    case 'text_erased':
      return [strong('Text erased'), plain(` of entry ${body.seq}`)];
    case 'voided':
      return body.duplicateOf
        ? [strong('Voided'), plain(': a duplicate of '), strong(body.duplicateOf.name)]
        : [strong('Voided'), plain(': out of all measures')];
    case 'merged':
      return [strong('Merged'), plain(' into this: '), strong(body.duplicate.name)];
  }
}

const dayText = (day: string | null): string => (day === null ? 'none' : dateText(day));

type Moved = Extract<JournalBody, { kind: 'moved' }>;

function moveWords(body: Moved, stage: (id: string | null) => string): readonly Piece[] {
  const over = body.move === 'skip' ? `, skipping ${body.over.map(stage).join(', ')}` : '';
  const open = body.open.length > 0 ? ` with ${countOf(body.open.length, 'requirement')} open` : '';
  return [
    strong(moveName(body.move, stage(body.from), stage(body.to))),
    plain(`${over}${body.forced === 'yes' ? ', forced' : ''}${open}`),
  ];
}

function moveName(move: Moved['move'], from: string, to: string): string {
  if (move === 'won') return 'Closed as won';
  if (move === 'lost') return 'Closed as lost';
  return move === 'return' ? `${from} ← back to ${to}` : `${from} → ${to}`;
}

const countOf = (count: number, name: string): string => `${count} ${name}${count === 1 ? '' : 's'}`;

function editWords(
  change: { readonly field: string; readonly before: unknown; readonly after: unknown },
  { catalogue, nameOf }: Words,
): readonly Piece[] {
  const field = catalogue.get(change.field);
  const show = (value: unknown): string => valueText(value as FactValue, field, nameOf);
  return [strong(field?.name ?? 'A field that is gone'), plain(` ${show(change.before)} → ${show(change.after)}`)];
}
