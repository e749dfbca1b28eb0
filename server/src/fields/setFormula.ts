import type { facts, TypeOf } from '@ladder/contract';
import {
  canonicalText,
  type Field,
  fieldProblems,
  fieldsAsked,
  type ProcessId,
  personActor,
  readDocument,
  readsThrough,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { recalculateParties } from '../facts/calculatedParties.ts';
import { presentCatalogue } from '../facts/catalogue.ts';
import { lockField, rewriteField } from '../facts/service.ts';
import type { AskedWork } from '../longWork/startWork.ts';
import type { WorkInHand, WorkKind } from '../longWork/workKind.ts';
import { invalid, Problem } from '../problems/problem.ts';
import { rejudgeProcess } from '../processes/rejudgeProcess.ts';
import { countOpenDeals } from '../processes/repository/openDeals.ts';
import { lockProcess } from '../setting/repository/lockProcess.ts';
import { currentVersions } from '../setting/repository/versions.ts';

type Asked = TypeOf<typeof facts.formulaChange>;

/** What works a calculated number out by another formula. */
export async function formulaToSet(tx: EntityManager, id: string, asked: Asked): Promise<AskedWork> {
  const field = await requireFormula(tx, id, asked);
  let total = 0;
  for (const process of await processesReading(tx, field)) total += await countOpenDeals(tx, process);
  return { kind: 'formula', subject: id, request: asked, total };
}

/**
 * A deal's number is that of its version until the next publish. A customer's or contact's is worked out at once, and the
 * open deals whose gates read it are judged again.
 */
export const formulaWork: WorkKind<Asked> = { kind: 'formula', run: setFormula };

async function setFormula(
  tx: EntityManager,
  { subject, request, by, now, progress }: WorkInHand<Asked>,
): Promise<number> {
  const before = await requireFormula(tx, subject, request);
  const reading = await processesReading(tx, before);
  // Processes before customers and contacts, and those before deals, as everywhere.
  for (const process of reading) await lockProcess(tx, process, 'publish');
  await rewriteField(tx, before, { ...before, formula: request.formula }, { by, now });
  if (before.holder === 'deal') return 0;
  await recalculateParties(tx, before.holder);
  const moment = { by: personActor(by), happenedAt: now, recordedAt: now };
  let judged = 0;
  for (const process of reading) judged += await rejudgeProcess(tx, process, moment, (done) => progress(judged + done));
  return judged;
}

/** The calculated number as it is; throws where the formula cannot be its, or another was seen. */
async function requireFormula(tx: EntityManager, id: string, { formula, saw }: Asked): Promise<Field> {
  const { definition: field } = await lockField(tx, id);
  if (field.type !== 'calculated') throw new Problem(409, `${field.name} is not a calculated number.`);
  const problems = fieldProblems({ ...field, formula }, await presentCatalogue(tx));
  if (problems.length > 0) throw invalid([...problems], 422);
  if (canonicalText(field.formula ?? null) !== canonicalText(saw))
    throw new Problem(409, 'Somebody else changed this formula since you opened it.', {
      errors: [{ pointer: '/formula', detail: 'Close, and open the field again to see how it is now.' }],
    });
  return field;
}

/** Processes whose gates read a customer's or contact's number, as they are judged now. */
async function processesReading(tx: EntityManager, field: Field): Promise<readonly ProcessId[]> {
  if (field.holder === 'deal') return [];
  const catalogue = await presentCatalogue(tx);
  const reading = (await currentVersions(tx)).filter(
    ({ state, document }) =>
      state !== 'draft' &&
      fieldsAsked(readDocument(document)).some((asked) => readsThrough(asked, field.id, catalogue)),
  );
  // In one order, as all locks are taken.
  return [...new Set(reading.map(({ process }) => process.id))].sort();
}
