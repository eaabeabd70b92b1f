import { customType, index, integer, pgTable, primaryKey, smallint, text, uuid } from "drizzle-orm/pg-core";
import { attempt } from "./attempts";
import { createdAt, instant } from "./columns";

const bytes = customType<{ data: Buffer; driverData: Buffer }>({ dataType: () => "bytea" });

/** A file that a student brings to a question. It arrives in pieces, so that it can go on after a lost connection. */
export const upload = pgTable(
  "upload",
  {
    /** Made by the device, so that sending the same file again is not a second file. */
    id: uuid().primaryKey(),
    attemptId: uuid()
      .notNull()
      .references(() => attempt.id, { onDelete: "cascade" }),
    slot: smallint().notNull(),
    /** As the student's device called it; only ever shown. */
    name: text().notNull(),
    /** In bytes: what it will have, and what has arrived. */
    size: integer().notNull(),
    received: integer().notNull().default(0),
    /** The media type, told by the content; null until all of it is here. */
    type: text(),
    completedAt: instant(),
    createdAt: createdAt(),
  },
  (table) => [index().on(table.attemptId, table.slot)],
);

export const uploadPiece = pgTable(
  "upload_piece",
  {
    uploadId: uuid()
      .notNull()
      .references(() => upload.id, { onDelete: "cascade" }),
    /** Where the piece begins, in bytes. */
    at: integer().notNull(),
    bytes: bytes().notNull(),
  },
  (table) => [primaryKey({ columns: [table.uploadId, table.at] })],
);
