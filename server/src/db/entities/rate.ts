import { EntitySchema } from 'typeorm';

export interface RateRow {
  fromCurrency: string;
  toCurrency: string;
  day: string;
  rate: string;
}

export const RateEntity = new EntitySchema<RateRow>({
  name: 'rate',
  tableName: 'rates',
  columns: {
    fromCurrency: { type: 'char', length: 3, primary: true },
    toCurrency: { type: 'char', length: 3, primary: true },
    day: { type: 'date', primary: true },
    rate: { type: 'numeric' },
  },
  checks: [{ name: 'rates_rate_check', expression: '(rate > (0)::numeric)' }],
});
