import type { designCheck as contract, TypeOf } from '@ladder/contract';
import { type ProcessId, readDocument } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { type Context, inCommand, inTransaction } from '../context.ts';
import { DismissalEntity } from '../db/entities/dismissal.ts';
import { ProcessEntity } from '../db/entities/process.ts';
import { ProcessLogEntryEntity } from '../db/entities/processLogEntry.ts';
import { at } from '../db/sql.ts';
import { notFound, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { loadSurroundings } from './designInput.ts';
import { findDesigns, findDismissals } from './repository.ts';

type Dismissals = TypeOf<typeof contract.dismissals>;
type Dismissal = TypeOf<typeof contract.dismissal>;

const MOST_DISMISSALS = 500;

export const listDismissals = (context: Context, process: ProcessId): Promise<Dismissals> =>
  inTransaction(context, async (tx) => {
    if (!(await tx.getRepository(ProcessEntity).existsBy({ id: process }))) throw notFound('process');
    return dismissalsOf(tx, process);
  });

const dismissalsOf = async (tx: EntityManager, process: ProcessId): Promise<Dismissals> => ({
  items: (await findDismissals(tx, process)).map(({ at: when, ...dismissal }) => ({
    ...dismissal,
    at: when.toISOString(),
  })),
});

/** Keeps why a suggestion is not followed; without a reason it is told again. Logged before and after. */
export const dismissRemark = (
  context: Context,
  person: Person,
  process: ProcessId,
  { remark, reason }: Dismissal,
): Promise<Dismissals> =>
  inCommand(context, async (tx) => {
    const now = at(context.clock.now());
    const dismissals = tx.getRepository(DismissalEntity);
    const known = await tx
      .getRepository(ProcessEntity)
      .findOne({ where: { id: process }, lock: { mode: 'for_no_key_update' } });
    if (!known) throw notFound('process');
    const before = await dismissals.findOneBy({ processId: process, remark });
    if (before?.reason !== (reason ?? undefined)) {
      if (!before && (await dismissals.countBy({ processId: process })) >= MOST_DISMISSALS)
        throw new Problem(
          409,
          `A process keeps at most ${MOST_DISMISSALS} dismissed suggestions. Take some back first.`,
        );
      if (reason === null) await dismissals.delete({ processId: process, remark });
      else
        await dismissals.upsert({ processId: process, remark, reason, byId: person.id, at: now }, [
          'processId',
          'remark',
        ]);
      await tx.getRepository(ProcessLogEntryEntity).insert({
        processId: process,
        at: now,
        byId: person.id,
        what: 'dismissal',
        ...(before ? { before: { remark, reason: before.reason } } : {}),
        ...(reason === null ? {} : { after: { remark, reason } }),
      });
    }
    return dismissalsOf(tx, process);
  });

/** Problems and warnings of each process, of its draft where it has one. */
export async function countRemarks(context: Context): Promise<TypeOf<typeof contract.counts>> {
  const { surroundings, designs } = await inTransaction(context, async (tx) => ({
    surroundings: await loadSurroundings(tx, context.clock.now()),
    designs: await findDesigns(tx),
  }));
  const items = designs.map(async ({ process, document }) => ({
    process,
    ...(await context.designChecks.counts({ document: readDocument(document), surroundings })),
  }));
  return { items: await Promise.all(items) };
}
