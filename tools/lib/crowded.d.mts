import type postgres from "postgres";
export function crowd(sql: postgres.Sql): Promise<void>;
