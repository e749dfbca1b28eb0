import { describe, expect, it } from 'vitest';
import { attachDocument, removeDocument } from '../commands/documents.ts';
import { moveDeal } from '../commands/move.ts';
import { type Ticker, tickItemBy } from '../commands/tick.ts';
import type { Deal } from '../deals/deal.ts';
import { standingAt } from '../deals/finding.ts';
import type { StageId } from '../ids.ts';
import { at, dealIn, documentOf, LOST, must, NOW, settingOf, stage } from '../testing/builders.ts';
import type { ChecklistItem } from './checklist.ts';

const item = (more: Partial<ChecklistItem>): ChecklistItem => ({
  id: 'signed',
  text: 'Signed by both',
  need: 'must',
  level: 'hold',
  afterReturn: 'keep',
  ...more,
});
const settingWith = (more: Partial<ChecklistItem>) =>
  settingOf(documentOf([stage('a', { checklist: [item(more)] }), stage('b')]));
const SELLER: Ticker = { id: 'priya', rank: 'seller' };
const OTHER: Ticker = { id: 'oskar', rank: 'seller' };
const MANAGER: Ticker = { id: 'tomas', rank: 'manager' };
const contract = { id: 'd1', kind: 'contract', name: 'c.pdf', mediaType: 'application/pdf', bytes: 1, digest: 'x' };

describe('an item that asks for a document as evidence', () => {
  const setting = settingWith({ document: 'contract' });
  const tick = (deal: Deal) => tickItemBy(SELLER, deal, setting, 'signed', 'ticked', at(NOW));
  const moved = (deal: Deal): Deal =>
    must(
      moveDeal(
        deal,
        setting,
        {
          target: { to: 'stage', stage: 'b' as StageId },
          mode: 'ask',
          text: '',
          reason: null,
          followUp: null,
        },
        at(NOW),
      ),
    ).change.deal;

  it('is ticked once that is attached, and open again where it is removed', () => {
    const begun = dealIn(setting);
    expect(tick(begun)).toEqual({ ok: false, error: { code: 'no_evidence', document: 'contract' } });
    const attached = must(attachDocument(begun, setting, contract, at(NOW))).deal;
    const inB = moved(must(tick(attached)).deal);
    expect(standingAt(inB.findings, NOW)).toBe('clear');
    const without = must(removeDocument(inB, setting, 'd1', at(NOW + 1))).deal;
    expect(standingAt(without.findings, NOW + 1)).toBe('held');
    const again = must(attachDocument(without, setting, { ...contract, id: 'd2' }, at(NOW + 2))).deal;
    expect(standingAt(again.findings, NOW + 2)).toBe('clear');
    expect(must(tickItemBy(SELLER, without, setting, 'signed', 'unticked', at(NOW + 3))).deal.ticks).toHaveLength(1);
  });

  it('a deal that closes as lost needs none of it', () => {
    const lost = { target: LOST, mode: 'ask', text: '', reason: null, followUp: null } as const;
    expect(must(moveDeal(dealIn(setting), setting, lost, at(NOW))).change.deal.status.state).toBe('lost');
  });
});

describe('an item that is for some to tick', () => {
  const can = (who: ChecklistItem['who'], ticker: Ticker, insteadOf?: string): boolean => {
    const setting = settingWith(who ? { who } : {});
    const moment = { ...at(NOW), ...(insteadOf === undefined ? {} : { insteadOf }) };
    return tickItemBy(ticker, dealIn(setting), setting, 'signed', 'ticked', moment).ok;
  };

  it('is ticked by them, by whoever stands in for the owner, and by managers', () => {
    expect([SELLER, OTHER, MANAGER].map((ticker) => can(undefined, ticker))).toEqual([true, true, true]);
    expect([SELLER, OTHER, MANAGER].map((ticker) => can('owner', ticker))).toEqual([true, false, true]);
    expect([SELLER, OTHER, MANAGER].map((ticker) => can('manager', ticker))).toEqual([false, false, true]);
    expect(can('owner', OTHER, 'priya')).toBe(true);
  });
});
