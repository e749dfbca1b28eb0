export interface Cluster {
  readonly ended: Promise<number>;
  readonly startedHere: boolean;
  readonly serverRole: string;
  ownerUrl(database: string): string;
  serverUrl(database: string): string;
  stop(): Promise<void>;
}
export function freePort(): Promise<number>;
export function startCluster(name: string, flags?: readonly string[]): Promise<Cluster>;
