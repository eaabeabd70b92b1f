/** A refusal that a person can act on; endpoints answer it as application/problem+json (RFC 9457). */
export class Problem extends Error {
  constructor(
    readonly status: number,
    /** A stable word for programs: "not-found", "time-is-up". */
    readonly type: string,
    /** One sentence for people: what happened and what would be right. */
    readonly sentence: string,
    readonly more: Readonly<Record<string, unknown>> = {},
  ) {
    super(sentence);
    this.name = "Problem";
  }
}

export const notFound = () =>
  new Problem(404, "not-found", "There is nothing here for you. Check the address, or go back to Today.");

export const notSignedIn = () =>
  new Problem(401, "not-signed-in", "You are not signed in any more. Sign in again; what you wrote is kept.");

/** Refuses what only the instructor of a course may do: "move its quizzes". */
export function instructorOnly(role: string, what: string): void {
  if (role === "instructor") return;
  throw new Problem(403, "instructor-only", `Only the instructor of this course can ${what}.`);
}

export const badInput = (sentence: string, more: Readonly<Record<string, unknown>> = {}) =>
  new Problem(422, "bad-input", sentence, more);

/** Whether the database refused a row because there is one already that must be the only one. */
export function isDuplicate(error: unknown): boolean {
  const cause = error instanceof Error && error.cause ? error.cause : error;
  return typeof cause === "object" && cause !== null && (cause as { code?: unknown }).code === "23505";
}

/** Any error as a problem: what was not foreseen is our fault, and says no more. */
export const problemOf = (error: unknown): Problem =>
  error instanceof Problem
    ? error
    : new Problem(
        500,
        "our-fault",
        "Something went wrong on our side. What you wrote is kept; please try again.",
      );

/** The body of a problem, with the reference that the log has too. */
export const problemBody = (problem: Problem, reference: string) => ({
  ...problem.more,
  type: `urn:shizuka:problem:${problem.type}`,
  title: problem.sentence,
  status: problem.status,
  reference,
});
