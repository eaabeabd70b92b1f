import type { Instant } from "../time/instants";

/** Where an attempt is in its life. "marked" means that no mark is awaited. */
export type AttemptState = "running" | "handed-in" | "marked" | "returned";

/** Who handed an attempt in. */
export type HandedInBy = "student" | "clock" | "instructor";

export function attemptState(attempt: {
  readonly handedInAt: Instant | null;
  readonly returnedAt: Instant | null;
  readonly awaiting: boolean;
}): AttemptState {
  if (attempt.handedInAt === null) return "running";
  if (attempt.returnedAt !== null) return "returned";
  return attempt.awaiting ? "handed-in" : "marked";
}
