/** A running application, as tests and pictures use it. */
export interface RunningServer {
  readonly url: string;
  readonly port: number;
  readonly pid: number;
  stop(): Promise<unknown>;
  kill(): Promise<unknown>;
}
interface Cluster {
  url(database: string): string;
}
export const TRIAL_SECRET: string;
export function startServer(databaseUrl: string, env?: Record<string, string>): Promise<RunningServer>;
export function createDatabase(cluster: Cluster, name: string, template?: string): Promise<string>;
export function createDemoTemplate(cluster: Cluster, name?: string): Promise<string>;
