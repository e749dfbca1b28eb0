import { EntitySchema } from 'typeorm';

export interface OrganisationRow {
  id: number;
  name: string;
  timeZone: string;
  currency: string;
  demo: boolean;
  /** Whether the stand-in for mail was told to fail. */
  mailFails: boolean;
}

export const OrganisationEntity = new EntitySchema<OrganisationRow>({
  name: 'organisation',
  tableName: 'organisation',
  columns: {
    id: { type: 'smallint', primary: true, default: 1 },
    name: { type: 'text' },
    timeZone: { type: 'text' },
    currency: { type: 'char', length: 3 },
    demo: { type: 'boolean', default: false },
    mailFails: { type: 'boolean', default: false },
  },
  checks: [{ name: 'organisation_id_check', expression: '(id = 1)' }],
});
