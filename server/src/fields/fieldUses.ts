import type { facts, TypeOf } from '@ladder/contract';
import { type Catalogue, type Field, type FieldUse, fieldUses, formulaFields, readDocument } from '@ladder/core';
import { type Context, inTransaction } from '../context.ts';
import type { Connection } from '../db/sql.ts';
import { offeredKinds } from '../documents/repository.ts';
import { presentCatalogue } from '../facts/catalogue.ts';
import { pageOfFields } from '../facts/pageOfFields.ts';
import { usedFieldIds } from '../facts/repository.ts';
import { organisation } from '../session/repository.ts';
import { latestRates } from '../setting/repository/rates.ts';
import { type CurrentVersion, currentVersions } from '../setting/repository/versions.ts';
import { countFilledOfDeals, countFilledOfParties, type FilledRow, findExamples } from './repository.ts';

type Uses = TypeOf<typeof facts.fieldUsesPage>['items'][number];

/** Where each field is used, in live versions, drafts and older ones that deals follow, and how often it is filled. */
export const listFieldUses = (context: Context, query: { after?: string; limit?: number }): Promise<unknown> =>
  inTransaction(context, async (tx) => {
    const catalogue = await presentCatalogue(tx);
    const page = pageOfFields(catalogue, query);
    const uses = await usesByField(tx, catalogue);
    const filled = await filledByField(tx, page.items);
    const used = new Set(await usedFieldIds(tx));
    return {
      ...page,
      items: page.items.map((field): Uses => {
        const own = uses.get(field.id) ?? [];
        const counts = filled.get(field.id) ?? [];
        return {
          field: field.id,
          used: field.builtIn === true || used.has(field.id) || counts.some((count) => count.filled > 0),
          uses: own,
          readBy: [...catalogue.values()]
            .filter(({ formula }) => formula && formulaFields(formula).includes(field.id))
            .map(({ id }) => id),
          filled: counts.filter(({ process }) => process === null || isAskedLive(own, process.id)),
        };
      }),
    };
  });

const isAskedLive = (uses: Uses['uses'], id: string): boolean =>
  uses.some(({ process, in: versions }) => process.id === id && versions.includes('live'));

type Use = Uses['uses'][number];

async function usesByField(connection: Connection, catalogue: Catalogue): Promise<ReadonlyMap<string, readonly Use[]>> {
  const kinds = new Map(await offeredKinds(connection));
  const byField = new Map<string, Map<string, Use>>();
  for (const version of await currentVersions(connection))
    for (const use of fieldUses(readDocument(version.document), catalogue, (id) => kinds.get(id)))
      addUse(byField, version, use);
  return new Map([...byField].map(([field, uses]) => [field, [...uses.values()]]));
}

/** What several versions of a process say alike is told once, with all of them. */
function addUse(byField: Map<string, Map<string, Use>>, version: CurrentVersion, use: FieldUse): void {
  const { field, ...told } = use;
  const uses = byField.get(field) ?? new Map<string, Use>();
  byField.set(field, uses);
  const key = JSON.stringify([version.process.id, told.way, told.place, told.what]);
  const before = uses.get(key)?.in ?? [];
  const versions = before.includes(version.state) ? before : [...before, version.state];
  uses.set(key, { process: version.process, in: versions, ...told, choices: [...told.choices] });
}

type Filled = Omit<FilledRow, 'field'>;

async function filledByField(
  connection: Connection,
  fields: readonly Field[],
): Promise<ReadonlyMap<string, readonly Filled[]>> {
  const of = (holder: Field['holder']) => fields.filter((field) => field.holder === holder).map(({ id }) => id);
  const rows = [
    ...(await countFilledOfDeals(connection, of('deal'))),
    ...(await countFilledOfParties(connection, 'customer', of('customer'))),
    ...(await countFilledOfParties(connection, 'contact', of('contact'))),
  ];
  const byField = new Map<string, Filled[]>();
  for (const { field, ...counts } of rows) byField.set(field, [...(byField.get(field) ?? []), counts]);
  return byField;
}

const EXAMPLES = 8;

/** Records on which a formula can be tried, with the rates that their amounts need. */
export const listExamples = (
  context: Context,
  {
    holder,
    find = '',
    filled = '',
  }: { readonly holder: Field['holder']; readonly find?: string; readonly filled?: string },
): Promise<TypeOf<typeof facts.examples>> =>
  inTransaction(context, async (tx) => {
    const rateOf = await latestRates(tx);
    const { currency: usual } = await organisation(tx);
    const rows = await findExamples(
      tx,
      { holder, find: find.trim(), filled: filled.split(',').filter(Boolean) },
      EXAMPLES,
    );
    return {
      items: rows.map(({ id, name, currency, values }) => {
        const to = currency ?? usual;
        const currencies = Object.values(values).flatMap((value) =>
          typeof value === 'object' && value !== null && 'currency' in value ? [value.currency] : [],
        );
        const rates = [...new Set(currencies)].flatMap((from) => {
          const rate = rateOf(from, to);
          return rate ? [{ from, ...rate }] : [];
        });
        return { id, name, currency: to, values, rates };
      }),
    };
  });
