import { index, pgEnum, pgTable, primaryKey, text, uuid } from "drizzle-orm/pg-core";
import { createdAt, id } from "./columns";
import { person } from "./people";

export const course = pgTable("course", {
  id: id(),
  /** In addresses: "nav-110". */
  slug: text().notNull().unique(),
  code: text().notNull(),
  title: text().notNull(),
  createdAt: createdAt(),
});

export const courseRole = pgEnum("course_role", ["student", "assistant", "instructor"]);

export const enrolment = pgTable(
  "enrolment",
  {
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    courseId: uuid()
      .notNull()
      .references(() => course.id, { onDelete: "cascade" }),
    role: courseRole().notNull(),
    createdAt: createdAt(),
  },
  (table) => [
    primaryKey({ columns: [table.personId, table.courseId] }),
    index().on(table.courseId, table.role),
  ],
);
