import { timeWithSeconds } from "@/core/time/words";
import type { DeskState } from "./desk-state";

export interface SaveWords {
  readonly mood: "safe" | "working" | "waiting" | "refused";
  readonly words: string;
}

/** The save state in words. */
export function saveWords(state: DeskState, zone: string): SaveWords {
  const { sending, unreachableSince, savedAt, allSaved, keepsOnDevice, refusals } = state;
  // Why stands in the line of messages.
  if (sending.kind === "signed-out") return { mood: "refused", words: "Not saved yet: signed out" };
  if (refusals.length > 0) return { mood: "refused", words: "Some of it is not saved" };
  if (sending.kind === "refused") return { mood: "refused", words: `Not saved: ${sending.sentence}` };
  if (unreachableSince !== null) {
    const since = timeWithSeconds(unreachableSince, zone);
    return keepsOnDevice
      ? { mood: "waiting", words: `Kept on this device, no connection since ${since}` }
      : { mood: "refused", words: `Not saved, no connection since ${since}. Leave this page open.` };
  }
  const waiting = state.files.filter((file) => file.state === "sending" || file.state === "unreachable");
  const [file] = waiting;
  if (file) {
    const share = Math.floor((file.sent / Math.max(1, file.size)) * 100);
    return file.state === "unreachable"
      ? { mood: "waiting", words: `“${file.name}” waits for the connection` }
      : { mood: "working", words: `Sending “${file.name}”, ${share} %` };
  }
  if (!allSaved) return { mood: "working", words: "Saving" };
  if (savedAt === null) return { mood: "safe", words: "Nothing to save yet" };
  return { mood: "safe", words: `All saved ${timeWithSeconds(savedAt, zone)}` };
}
