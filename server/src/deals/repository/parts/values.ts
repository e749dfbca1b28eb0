import { isMoney, textValue } from '@ladder/core';
import type { StoredPart } from './storedPart.ts';

export const valuesStored: StoredPart<'values'> = {
  select: {
    currency: 'd.currency',
    values: 'd.values',
    partyValues: `coalesce(cu.values, '{}') || coalesce(co.values, '{}')`,
    closeDateMoves: 'd.close_date_moves',
  },
  from: 'left join customers cu on cu.id = d.customer_id left join contacts co on co.id = d.contact_id',
  row: (deal) => ({
    customer_id: textValue(deal, 'customer'),
    contact_id: textValue(deal, 'contact'),
    owner_id: textValue(deal, 'owner'),
    team_id: textValue(deal, 'team'),
    source: textValue(deal, 'source'),
    value_minor: isMoney(deal.values.value) ? deal.values.value.minor : null,
    currency: deal.currency,
    own_chance: deal.values.own_chance ?? null,
    close_date: textValue(deal, 'close_date'),
    next_action: textValue(deal, 'next_action'),
    values: deal.values,
    close_date_moves: deal.closeDateMoves,
  }),
};
