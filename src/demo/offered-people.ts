import { eq, inArray } from "drizzle-orm";
import { database } from "@/data/database";
import { course, enrolment, person } from "@/data/schema";
import type { OfferedPerson } from "@/server/sign-in/offered-people";
import { ADMINISTRATOR, addressOf, DEMO_PASSWORD, INSTRUCTORS, NOOR } from "./people";

/** The sample people whom the sign-in page of the demo offers with one press. */
const OFFERED = [NOOR, INSTRUCTORS.nav, INSTRUCTORS.brd, ADMINISTRATOR];

/** The sample people of the demo for its sign-in page. */
export async function offeredPeople(): Promise<OfferedPerson[]> {
  const emails = OFFERED.map(addressOf);
  const rows = await database()
    .select({
      name: person.name,
      email: person.email,
      administrator: person.administrator,
      role: enrolment.role,
      course: course.title,
    })
    .from(person)
    .leftJoin(enrolment, eq(enrolment.personId, person.id))
    .leftJoin(course, eq(course.id, enrolment.courseId))
    .where(inArray(person.email, emails));
  return emails.flatMap((email) => {
    const mine = rows.filter((row) => row.email === email);
    const [first] = mine;
    if (!first) return [];
    const courses = mine.flatMap((row) => (row.course ? [row.course] : [])).sort();
    return [
      {
        name: first.name,
        email,
        password: DEMO_PASSWORD,
        role: first.administrator ? ("administrator" as const) : first.role,
        courses,
      },
    ];
  });
}

/** The sample sign-ins that are printed when the demo starts. */
export const sampleSignIns = () =>
  [NOOR, INSTRUCTORS.nav, ADMINISTRATOR].map((name) => ({
    name,
    email: addressOf(name),
    password: DEMO_PASSWORD,
  }));
