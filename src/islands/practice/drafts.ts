import type { Answer } from "@/core/kinds/answering";

const keyOf = (runId: string) => `practice ${runId}`;

/** What was written in a run and not marked yet, by slot, as this device kept it; a reload loses nothing. */
export function keptDrafts(runId: string): Readonly<Record<string, Answer>> {
  try {
    return JSON.parse(localStorage.getItem(keyOf(runId)) ?? "{}");
  } catch {
    return {};
  }
}

/** Where a device keeps nothing, practising works all the same. */
export function keepDrafts(runId: string, drafts: Readonly<Record<string, Answer>>): void {
  try {
    if (Object.keys(drafts).length === 0) localStorage.removeItem(keyOf(runId));
    else localStorage.setItem(keyOf(runId), JSON.stringify(drafts));
  } catch {
    // Nothing can be kept here.
  }
}
