import type { Viewer } from "../viewer";
import { openAttempt } from "./access";
import { handInByStudent } from "./settle";

/** A student hands in. Pressing twice, or after the clock did it, is no error: the attempt is handed in. */
export async function handInAttempt(viewer: Viewer, attemptId: string): Promise<void> {
  await openAttempt(viewer, attemptId);
  await handInByStudent(attemptId, viewer.id);
}
