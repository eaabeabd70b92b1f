import { type FoundAttempt, findAttempt } from "../access/find-attempt";
import type { Viewer } from "../access/viewer";
import { now } from "../base/clock";
import { isOverdue, settle } from "./settle";

/** An attempt that its reader may see, handed in if its time is up. */
export type OpenedAttempt = FoundAttempt;

/**
 * An attempt that this person may see, as `findAttempt` says, with its time settled: one whose time is up is handed in
 * first. @throws Problem "not found"
 */
export async function openAttempt(
  viewer: Viewer,
  attemptId: string,
  options: { readonly staff?: boolean } = {},
): Promise<OpenedAttempt> {
  const found = await findAttempt(viewer, attemptId, options);
  if (!isOverdue(found.attempt, now())) return found;
  await settle(attemptId);
  return findAttempt(viewer, attemptId, options);
}
