/** What somebody is in a course. */
export const COURSE_ROLES = ["student", "assistant", "instructor", "observer"] as const;
export type CourseRole = (typeof COURSE_ROLES)[number];

/** Who may do what in a course or at one of its quizzes. An assistant may only at the quizzes that were given to them. */
const ALLOWED = {
  /** Take its quizzes. */
  take: ["student"],
  /** Read what was handed in, with its marks, before it is returned. */
  "read-work": ["assistant", "instructor"],
  /** Read returned work, its marks and its record. */
  "read-returned": ["assistant", "instructor", "observer"],
  /** Mark, write notes and remarks. */
  mark: ["assistant", "instructor"],
  /** Answer questions about marks. */
  answer: ["assistant", "instructor"],
  /** Watch a running quiz, and say something to its desks. */
  watch: ["assistant", "instructor"],
  /** Return work, and take a return back. */
  return: ["instructor"],
  /** Set a mark in the gradebook, excuse, weigh and drop. */
  adjust: ["instructor"],
  /** Change windows, settings, questions and keys. */
  rule: ["instructor"],
  /** Give more time, attempts or a window of one's own. */
  allow: ["instructor"],
  /** Write the plan of a course, and say something to everyone in it. */
  tell: ["instructor"],
} as const satisfies Record<string, readonly CourseRole[]>;

export type Action = keyof typeof ALLOWED;
export const ACTIONS = Object.keys(ALLOWED) as Action[];

/** What ties somebody to a quiz. */
export interface Tie {
  /** Null: nothing, or not any more. */
  readonly role: CourseRole | null;
  /** Whether the quiz was given to this person; asked of assistants alone. */
  readonly given: boolean;
}

/**
 * Whether somebody may do something at a quiz: the one place that says so. What one may not do answers like something that
 * does not exist.
 * @example may({ role: "assistant", given: true }, "mark") → true
 */
export function may({ role, given }: Tie, action: Action): boolean {
  if (role === null || !(ALLOWED[action] as readonly CourseRole[]).includes(role)) return false;
  return role !== "assistant" || given;
}
