import type { BookCompany, BookDeal, BookPart } from '@ladder/contract';
import { BUILT_IN_FIELDS, type Catalogue, catalogueOf, foldText } from '@ladder/core';
import { hash } from '@node-rs/argon2';
import type { DataSource, EntityManager } from 'typeorm';
import { CalendarEntity } from '../db/entities/calendar.ts';
import { CustomerEntity } from '../db/entities/customer.ts';
import { DocumentKindEntity } from '../db/entities/documentKind.ts';
import { FieldEntity } from '../db/entities/field.ts';
import { MessageTemplateEntity } from '../db/entities/messageTemplate.ts';
import { OrganisationEntity } from '../db/entities/organisation.ts';
import { PersonEntity } from '../db/entities/person.ts';
import { ProcessEntity } from '../db/entities/process.ts';
import { ProcessVersionEntity } from '../db/entities/processVersion.ts';
import { TeamEntity } from '../db/entities/team.ts';
import { TeamMemberEntity } from '../db/entities/teamMember.ts';
import { at } from '../db/sql.ts';
import { writeDeals } from '../deals/repository/writeDeals.ts';
import { replaceReasons } from '../processes/repository/processes.ts';

const BATCH = 100;

export interface LoadedBook {
  readonly open: number;
  readonly closed: number;
}

/** Loads a book in one transaction. Null where the database holds anything: it is left alone. */
export async function loadBook(
  source: DataSource,
  parts: AsyncIterable<BookPart> | Iterable<BookPart>,
): Promise<LoadedBook | null> {
  return source.transaction(async (tx) => {
    const isUsed =
      (await tx.getRepository(OrganisationEntity).exists()) || (await tx.getRepository(PersonEntity).exists());
    return isUsed ? null : writeBook(tx, parts);
  });
}

async function writeBook(tx: EntityManager, parts: AsyncIterable<BookPart> | Iterable<BookPart>): Promise<LoadedBook> {
  let catalogue: Catalogue = catalogueOf(BUILT_IN_FIELDS);
  let waiting: BookDeal[] = [];
  const counts = { open: 0, closed: 0 };
  const write = async (): Promise<void> => {
    await writeDeals(
      tx,
      waiting.map((change) => ({ before: null, change, tells: 'nobody' })),
      catalogue,
    );
    waiting = [];
  };
  for await (const part of parts) {
    switch (part.part) {
      case 'company':
        await writeCompany(tx, part);
        catalogue = catalogueOf([...BUILT_IN_FIELDS, ...part.fields]);
        break;
      case 'deal':
        counts[part.deal.status.state === 'open' ? 'open' : 'closed']++;
        if (waiting.push(part) === BATCH) await write();
        break;
      case 'end':
        await write();
        return counts;
    }
  }
  throw new Error('The book was cut off before its end. Nothing was loaded.');
}

async function writeCompany(tx: EntityManager, company: BookCompany): Promise<void> {
  await tx.getRepository(OrganisationEntity).insert({ id: 1, ...company.organisation });
  await tx.getRepository(CalendarEntity).insert([...company.calendars]);
  await tx.getRepository(TeamEntity).insert(company.teams.map((team) => ({ ...team, nameFold: foldText(team.name) })));
  await tx
    .getRepository(DocumentKindEntity)
    .insert(company.documentKinds.map((kind) => ({ ...kind, nameFold: foldText(kind.name), withdrawnAt: null })));
  await writeTemplates(tx, company);
  await writePeople(tx, company);
  await tx.getRepository(FieldEntity).insert(
    company.fields.map((definition, place) => ({
      id: definition.id,
      holder: definition.holder,
      type: definition.type,
      name: definition.name,
      nameFold: foldText(definition.name),
      definition,
      searchable: false,
      place,
    })),
  );
  await writeProcesses(tx, company);
  await tx
    .getRepository(CustomerEntity)
    .insert(company.customers.map((customer) => ({ ...customer, nameFold: foldText(customer.name) })));
}

async function writeTemplates(tx: EntityManager, { templates }: BookCompany): Promise<void> {
  await tx.getRepository(MessageTemplateEntity).insert(
    templates.map((template) => ({
      ...template,
      nameFold: foldText(template.name),
      processId: null,
      toWho: template.toField === null ? ('owner' as const) : ('contact' as const),
      withdrawnAt: null,
    })),
  );
}

async function writePeople(tx: EntityManager, { people, password }: BookCompany): Promise<void> {
  const passwordHash = await hash(password);
  await tx
    .getRepository(PersonEntity)
    .insert(
      people.map(({ teams: _teams, ...person }) => ({ ...person, emailFold: foldText(person.email), passwordHash })),
    );
  await tx
    .getRepository(TeamMemberEntity)
    .insert(people.flatMap(({ id, teams }) => teams.map((teamId) => ({ personId: id, teamId }))));
}

async function writeProcesses(tx: EntityManager, { processes, versions }: BookCompany): Promise<void> {
  await tx.getRepository(ProcessEntity).insert(
    processes.map(({ id, name, kind, calendar, houseRules }) => ({
      id,
      name,
      nameFold: foldText(name),
      kind,
      calendarId: calendar,
      houseRules: Object.fromEntries(Object.entries(houseRules).filter(([, rule]) => rule !== null)),
    })),
  );
  for (const { id, reasons } of processes) await replaceReasons(tx, id, reasons);
  await tx.getRepository(ProcessVersionEntity).insert(
    versions.map(({ process: processId, publishedAt, ...version }) => ({
      ...version,
      processId,
      savedAt: at(publishedAt),
      publishedAt: at(publishedAt),
      supersededAt: supersededAt(versions, processId, version.number),
    })),
  );
}

const supersededAt = (versions: BookCompany['versions'], process: string, number: number): Date | null => {
  const next = versions.find((version) => version.process === process && version.number === number + 1);
  return next ? at(next.publishedAt) : null;
};
