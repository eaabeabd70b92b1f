import type { Said } from "@/core/said";
import { say, t } from "@/words/t";

/** A refusal that a person can act on; endpoints answer it as application/problem+json (RFC 9457). */
export class Problem extends Error {
  constructor(
    readonly status: number,
    /** A stable word for programs: "not-found", "time-is-up". */
    readonly type: string,
    /** One sentence for people: what happened and what would be right. */
    readonly sentence: Said,
    readonly more: Readonly<Record<string, unknown>> = {},
  ) {
    super(typeof sentence === "string" ? sentence : sentence.code);
    this.name = "Problem";
  }
}

export const notFound = () =>
  new Problem(404, "not-found", t("server.base.problems.there-is-nothing-here-for-you"));

export const notSignedIn = () =>
  new Problem(401, "not-signed-in", t("server.base.problems.you-are-not-signed-in-any"));

export const badInput = (sentence: Said, more: Readonly<Record<string, unknown>> = {}) =>
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
    : new Problem(500, "our-fault", t("server.base.problems.something-went-wrong-on-our-side"));

/** The body of a problem, with the reference that the log has too. */
export const problemBody = (problem: Problem, reference: string) => ({
  ...problem.more,
  type: `urn:shizuka:problem:${problem.type}`,
  title: say(problem.sentence),
  status: problem.status,
  reference,
});
