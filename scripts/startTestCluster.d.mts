import type { Cluster } from './cluster.mjs';

export function startTestCluster(): Promise<Cluster>;
