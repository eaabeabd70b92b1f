/** A PostgreSQL cluster of our own. */
export interface Cluster {
  readonly port: number;
  url(database: string): string;
  stop(mode?: "fast" | "immediate"): unknown;
  start(): unknown;
}
export function startCluster(name: string, options?: { fresh?: boolean; fast?: boolean }): Promise<Cluster>;
