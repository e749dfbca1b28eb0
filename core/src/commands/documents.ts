import type { Deal } from '../deals/deal.ts';
import type { DealDocument } from '../deals/parts/documents.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { failed, ok, type Result } from '../result.ts';
import { changeBy, journal, revised } from './change.ts';

export type DocumentProblem =
  | { readonly code: 'voided' | 'no_such_document' }
  /** One of the very same bytes is attached as this kind already. */
  | { readonly code: 'duplicate'; readonly document: DealDocument };

/** A document attached to the deal; possible on closed deals too (S12). Errors: the same bytes as the same kind already. */
export const attachDocument = (
  deal: Deal,
  setting: Setting,
  document: Omit<DealDocument, 'at' | 'by' | 'removed'>,
  asked: Moment,
): Result<Change, DocumentProblem> =>
  changeBy<DocumentProblem>(deal, setting, asked, (before, moment) => {
    if (before.status.state === 'voided') return failed({ code: 'voided' });
    const same = before.documents.find(
      ({ digest, kind, removed }) => removed === null && digest === document.digest && kind === document.kind,
    );
    if (same) return failed({ code: 'duplicate', document: same });
    const attached: DealDocument = { ...document, at: moment.happenedAt, by: moment.by, removed: null };
    const after = revised({ ...before, documents: [...before.documents, attached] });
    const body = { kind: 'document_attached', document: document.id, of: document.kind } as const;
    return ok({ deal: after, records: [journal(after, moment, body, document.name)] });
  });

/** A document taken off the deal; that it was there stays in the journal. Errors: it is not attached. */
export const removeDocument = (
  deal: Deal,
  setting: Setting,
  id: string,
  asked: Moment,
): Result<Change, DocumentProblem> =>
  changeBy<DocumentProblem>(deal, setting, asked, (before, moment) => {
    if (before.status.state === 'voided') return failed({ code: 'voided' });
    const document = before.documents.find((one) => one.id === id && one.removed === null);
    if (!document) return failed({ code: 'no_such_document' });
    const removed = { ...document, removed: { at: moment.happenedAt, by: moment.by } };
    const after = revised({ ...before, documents: before.documents.map((one) => (one === document ? removed : one)) });
    const body = { kind: 'document_removed', document: id, of: document.kind } as const;
    return ok({ deal: after, records: [journal(after, moment, body, document.name)] });
  });
