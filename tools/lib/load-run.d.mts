import type { Sql } from "postgres";

/** What became of the answers of many students at once; times in milliseconds, `latest` in seconds. */
export interface LoadReport {
  readonly students: number;
  readonly acknowledged: number;
  readonly refused: number;
  readonly failed: number;
  readonly events: number;
  readonly logged: number;
  readonly checked: number;
  readonly lost: number;
  readonly handedIn: number;
  readonly byClock: number;
  readonly latest: number;
  readonly half: number;
  readonly most: number;
  readonly all: number;
  readonly startedWithin: number;
}
export function runLoad(terms: {
  url: string;
  sql: Sql;
  students: number;
  seconds: number;
  pause: number;
  say?: (line: string) => void;
}): Promise<LoadReport>;
