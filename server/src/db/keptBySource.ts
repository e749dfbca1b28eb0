import type { DataSource } from 'typeorm';
import { type Connection, manager } from './sql.ts';

const firsts = new WeakMap<DataSource, DataSource>();

/** Says that pools are on one database: what was read by one of them serves them all. */
export function keepTogether([first, ...others]: readonly DataSource[]): void {
  for (const other of others) if (first) firsts.set(other, first);
}

/**
 * What a server keeps of what it has read or worked out, by key. Whoever uses it says by a mark of the rows whether it is
 * still so; what was kept longest ago makes room.
 */
export class KeptBySource<Key, Value> {
  private readonly sources = new WeakMap<DataSource, Map<Key, Value>>();

  constructor(private readonly most: number) {}

  get(connection: Connection, key: Key): Value | undefined {
    return this.of(connection).get(key);
  }

  keep(connection: Connection, key: Key, value: Value): void {
    const mine = this.of(connection);
    mine.delete(key);
    mine.set(key, value);
    for (const oldest of mine.keys()) {
      if (mine.size <= this.most) return;
      mine.delete(oldest);
    }
  }

  keys(connection: Connection): readonly Key[] {
    return [...this.of(connection).keys()];
  }

  forget(connection: Connection, key: Key): void {
    this.of(connection).delete(key);
  }

  private of(connection: Connection): Map<Key, Value> {
    const { dataSource } = manager(connection);
    const first = firsts.get(dataSource) ?? dataSource;
    const mine = this.sources.get(first) ?? new Map<Key, Value>();
    this.sources.set(first, mine);
    return mine;
  }
}
