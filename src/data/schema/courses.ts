import { boolean, index, integer, jsonb, pgEnum, pgTable, primaryKey, text, uuid } from "drizzle-orm/pg-core";
import { COURSE_ROLES } from "@/core/access/may";
import type { Scale } from "@/core/gradebook/scales";
import type { UnitMeanings } from "@/core/numbers/unit-names";
import { createdAt, id, instant } from "./columns";
import { person } from "./people";

export const course = pgTable("course", {
  id: id(),
  /** In addresses: "nav-110". */
  slug: text().notNull().unique(),
  code: text().notNull(),
  title: text().notNull(),
  /** Whether work that was not handed in before its closing counts as 0; else it leaves the calculation. */
  missingCountsZero: boolean().notNull().default(false),
  /** Whether students may see how the class did, where five or more have a mark. */
  classShown: boolean().notNull().default(false),
  /** How the course's standing is shown; null: in per cent. */
  scale: jsonb().$type<Scale>(),
  /** What unit symbols mean in its quizzes, for the versions made from now on: { "nm": "nauticalmile" }. */
  unitMeanings: jsonb().$type<UnitMeanings>().notNull().default({}),
  createdAt: createdAt(),
});

export const courseRole = pgEnum("course_role", COURSE_ROLES);

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
    /** When this person last opened the course's page; null: never. */
    visitedAt: instant(),
    createdAt: createdAt(),
  },
  (table) => [
    primaryKey({ columns: [table.personId, table.courseId] }),
    index().on(table.courseId, table.role),
  ],
);

/** A part of a course's students: a group, a morning, a room. */
export const courseSection = pgTable(
  "course_section",
  {
    id: id(),
    courseId: uuid()
      .notNull()
      .references(() => course.id, { onDelete: "cascade" }),
    title: text().notNull(),
    position: integer().notNull(),
  },
  (table) => [index().on(table.courseId)],
);

/** Who belongs to a section; a student may belong to several. */
export const sectionMember = pgTable(
  "section_member",
  {
    sectionId: uuid()
      .notNull()
      .references(() => courseSection.id, { onDelete: "cascade" }),
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
  },
  (table) => [primaryKey({ columns: [table.sectionId, table.personId] }), index().on(table.personId)],
);
