import { eq, inArray } from "drizzle-orm";
import { database } from "@/data/database";
import { course, enrolment, person } from "@/data/schema";

/** One password for all sample people of the demo. */
export const DEMO_PASSWORD = "quiet harbour";

/** The sample people whom the sign-in page of the demo offers with one press. */
const OFFERED = ["noor.haldane", "ines.marsh", "tomas.oyelaran", "yuki.brandvold"] as const;

const ROLE_WORDS = { student: "student", assistant: "assistant", instructor: "instructor" } as const;

/** The sample people of the demo for its sign-in page. Asked for by the demo only. */
export async function offeredPeople() {
  const emails = OFFERED.map((name) => `${name}@alderquay.example`);
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
    const role = first.administrator
      ? "administrator"
      : first.role
        ? `${ROLE_WORDS[first.role]}, ${courses.join(", ")}`
        : "";
    return [{ name: first.name, email, password: DEMO_PASSWORD, role }];
  });
}
