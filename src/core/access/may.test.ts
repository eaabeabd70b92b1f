import { expect, test } from "vitest";
import { ACTIONS, type Action, COURSE_ROLES, type CourseRole, may } from "./may";

/** The whole table once more, as the people of the house would say it. */
const TABLE: Readonly<Record<CourseRole, readonly Action[]>> = {
  student: ["take"],
  assistant: ["read-work", "read-returned", "mark", "answer", "watch"],
  instructor: [
    "read-work",
    "read-returned",
    "mark",
    "answer",
    "watch",
    "return",
    "adjust",
    "rule",
    "allow",
    "tell",
  ],
  observer: ["read-returned"],
};

test.each(COURSE_ROLES)("what %s may", (role) => {
  expect(ACTIONS.filter((action) => may({ role, given: true }, action))).toEqual(TABLE[role]);
});

test("an assistant may nothing at a quiz that was not given to them; others need not be given it", () => {
  expect(ACTIONS.filter((action) => may({ role: "assistant", given: false }, action))).toEqual([]);
  for (const role of ["student", "instructor", "observer"] as const)
    for (const action of ACTIONS)
      expect(may({ role, given: false }, action)).toBe(may({ role, given: true }, action));
});

test("whom nothing ties to the course may nothing", () => {
  expect(ACTIONS.filter((action) => may({ role: null, given: true }, action))).toEqual([]);
});
