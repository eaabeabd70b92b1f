import { customType, pgTable, smallint } from "drizzle-orm/pg-core";
import { createdAt } from "./columns";

const bytes = customType<{ data: Buffer; driverData: Buffer }>({ dataType: () => "bytea" });

/**
 * Secrets that never leave the server, with which the names within attempts are made. They are kept here, and not with the
 * secret that signs sessions, because what was answered can be read only with the key that its names were made with.
 */
export const serverKey = pgTable("server_key", {
  /** What `naming` of an attempt says. */
  number: smallint().primaryKey(),
  secret: bytes().notNull(),
  createdAt: createdAt(),
});
