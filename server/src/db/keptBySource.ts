import type { DataSource } from 'typeorm';
import { type Connection, manager } from './sql.ts';

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

  private of(connection: Connection): Map<Key, Value> {
    const { dataSource } = manager(connection);
    const mine = this.sources.get(dataSource) ?? new Map<Key, Value>();
    this.sources.set(dataSource, mine);
    return mine;
  }
}
