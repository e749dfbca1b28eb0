import type { messages as contract, TypeOf } from '@ladder/contract';
import { type Deal, isMailAddress, type MergeFacts, mergeTemplate, type Setting, textValue } from '@ladder/core';
import type { Connection } from '../db/sql.ts';
import { nameLookup } from '../deals/names.ts';
import { loadNames } from '../deals/repository/names.ts';
import { findAccount } from '../people/repository.ts';
import type { FoundTemplate } from './repository.ts';

type Draft = TypeOf<typeof contract.draft>;

/** A template merged with a deal as it is; what is missing is named, and stands in it as a field. */
export async function draftOf(
  connection: Connection,
  deal: Deal,
  setting: Setting,
  template: FoundTemplate,
): Promise<Draft> {
  const nameOf = nameLookup((await loadNames(connection, [setting.document], deal)).names);
  const owner = textValue(deal, 'owner');
  const account = owner === null ? null : await findAccount(connection, owner);
  const named = (field: string): string | null => nameOf(textValue(deal, field) ?? '') ?? null;
  const facts: MergeFacts = {
    catalogue: setting.catalogue,
    plain: {
      'deal.name': deal.name,
      'customer.name': named('customer'),
      'contact.name': named('contact'),
      'owner.name': account?.name ?? null,
      'owner.email': account?.email ?? null,
    },
    values: { ...deal.values, ...deal.partyValues },
    nameOf,
  };
  const to = recipientOf(deal, template, facts);
  const [subject, body] = [mergeTemplate(template.subject, facts), mergeTemplate(template.body, facts)];
  const missing = [subject, body].flatMap((merged) =>
    merged.ok ? merged.value.missing : ['a shorter text: what it merges is too long'],
  );
  return {
    name: to.name,
    address: to.address,
    // A value may hold line breaks; a subject is one line.
    subject: subject.ok ? subject.value.text.replace(/\s+/g, ' ').trim().slice(0, 300) : '',
    body: body.ok ? body.value.text : '',
    missing: [
      ...new Set([...(isMailAddress(to.address) ? [] : [`mail address of the ${template.to.who}`]), ...missing]),
    ],
  };
}

function recipientOf(
  deal: Deal,
  { to }: FoundTemplate,
  { plain }: MergeFacts,
): { readonly name: string; readonly address: string } {
  if (to.who === 'owner') return { name: plain['owner.name'] ?? '', address: plain['owner.email'] ?? '' };
  const address = deal.partyValues[to.field ?? ''];
  return { name: plain['contact.name'] ?? '', address: typeof address === 'string' ? address.trim() : '' };
}
