import { sql } from "drizzle-orm";
import { database } from "@/data/database";

/** Whether the database answers. */
export async function isHealthy(): Promise<boolean> {
  try {
    await database().execute(sql`select 1`);
    return true;
  } catch {
    return false;
  }
}
