import { timestamp, uuid } from "drizzle-orm/pg-core";
import { v7 } from "uuid";

/** A key whose order is the order of creation (UUIDv7, RFC 9562). */
export const newId = (): string => v7();

export const id = () => uuid().primaryKey().$defaultFn(newId);

/** An instant; the database keeps it in UTC. */
export const instant = () => timestamp({ withTimezone: true, mode: "date", precision: 3 });

export const createdAt = () => instant().notNull().defaultNow();
