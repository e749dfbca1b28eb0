import type { WorkKindName } from '@ladder/contract';
import type { EntityManager } from 'typeorm';

/** A long work that is being done. */
export interface WorkInHand<Request, Subject extends string = string> {
  readonly id: string;
  /** What is worked on, by one work at a time: the id of a process or an import, or `rates`. */
  readonly subject: Subject;
  /** The person who asked for it. */
  readonly by: string;
  readonly request: Request;
  /** The instant at which it counts as done. */
  readonly now: number;
  /** Tells how far it is; throws where it was cancelled meanwhile. */
  readonly progress: (done: number, total?: number) => Promise<void>;
  /** Does a step in a transaction of its own, which is over at once: what is done in steps can be begun again. */
  readonly apart: <T>(step: (tx: EntityManager) => Promise<T>) => Promise<T>;
  /** Says in such a step that from now on it is not cancelled any more; throws where it was. */
  readonly bind: (tx: EntityManager) => Promise<void>;
}

/**
 * One kind of long work: what it changes is one transaction, which commits with the word that it is done, or steps that
 * are.
 */
export interface WorkKind<Request, Subject extends string = string> {
  readonly kind: WorkKindName;
  /** Does it, and gives how many deals it changed. */
  readonly run: (tx: EntityManager, work: WorkInHand<Request, Subject>) => Promise<number>;
}
