import { BUILT_IN_FIELDS, catalogueOf, checkDocument, itemsOf, type ProcessDocument } from '@ladder/core';
import { describe, expect, it } from 'vitest';
import { CARE_PLAN } from './carePlan.ts';
import { ENQUIRY_DESK } from './enquiryDesk.ts';
import { FIELDS } from './fields.ts';
import { NEW_BUILD } from './newBuild.ts';
import { PEOPLE, SELLERS, TEAMS } from './people.ts';
import { DESK_REASONS, REASONS } from './reasons.ts';
import { RETROFIT } from './retrofit.ts';

const catalogue = catalogueOf([...BUILT_IN_FIELDS, ...FIELDS]);
const DOCUMENTS: readonly ProcessDocument[] = [NEW_BUILD, RETROFIT, CARE_PLAN, ENQUIRY_DESK];

describe('the made-up company', () => {
  it.each(DOCUMENTS.map((document) => [document.name, document] as const))(
    '%s can be published as it stands',
    (_name, document) => {
      expect(checkDocument(document, catalogue, () => undefined)).toEqual([]);
    },
  );

  it.each(DOCUMENTS.map((document) => [document.name, document] as const))(
    '%s gets surer from stage to stage, and gives each a target and a purpose',
    (_name, { stages }) => {
      const chances = stages.map(({ chance }) => chance);
      expect(chances).toEqual(chances.toSorted((a, b) => a - b));
      for (const { target, purpose } of stages) {
        expect(target?.days).toBeGreaterThan(0);
        expect(purpose).not.toBe('');
      }
    },
  );

  it('has the stages of its processes in their order', () => {
    expect(NEW_BUILD.stages.map(({ name }) => name)).toEqual([
      'Site brief',
      'Survey',
      'Outline design',
      'Costed proposal',
      'Contract review',
      'Deposit and slot',
    ]);
    expect(RETROFIT.stages.map(({ name }) => name)).toEqual([
      'Audit booked',
      'Audit done',
      'Retrofit plan',
      'Proposal',
      'Approval',
    ]);
  });

  it('gives docs/ its example of a process', async () => {
    const written = `${JSON.stringify(NEW_BUILD, null, 2)}\n`;
    await expect(written).toMatchFileSnapshot('../../../docs/example-process.json');
  });

  it('asks with every kind of requirement, holding and flagging', () => {
    const items = DOCUMENTS.flatMap((document) => [...itemsOf(document).values()]);
    expect(new Set(items.map(({ kind }) => kind))).toEqual(
      new Set(['criterion', 'field', 'checklist', 'steps', 'step', 'activities']),
    );
    expect(new Set(items.map(({ level }) => level))).toEqual(new Set(['hold', 'flag']));
    expect(items.some(({ appliesWhen }) => appliesWhen !== undefined)).toBe(true);
  });

  it('has two sellers in each team, each in one, with an address that leads nowhere', () => {
    for (const team of TEAMS) expect(SELLERS.filter(({ teams }) => teams.includes(team.id))).toHaveLength(2);
    for (const { teams } of SELLERS) expect(teams).toHaveLength(1);
    expect(new Set(PEOPLE.map(({ email }) => email)).size).toBe(PEOPLE.length);
    // RFC 2606, section 2: .example is reserved and resolves nowhere.
    for (const { email } of PEOPLE) expect(email).toMatch(/\.example$/);
  });

  it('has fields and reasons with names and ids of their own', () => {
    expect(new Set([...catalogue.values()].map(({ holder, name }) => `${holder} ${name}`)).size).toBe(catalogue.size);
    const reasons = [...REASONS, ...DESK_REASONS];
    expect(new Set(reasons.map(({ id }) => id)).size).toBe(reasons.length);
    expect(REASONS.some(({ followUp }) => followUp === 'asked')).toBe(true);
  });
});
