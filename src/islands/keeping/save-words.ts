import type { Instant } from "@/core/time/instants";
import { t } from "@/words/t";
import { timeWithSeconds } from "@/words/times";
import type { PendingFile } from "./file-queue";
import type { SendState } from "./sender";

/** How saving stands, of whatever is written. */
export interface SaveState {
  readonly sending: SendState;
  /** Since when the server cannot be reached. */
  readonly unreachableSince: Instant | null;
  /** When everything was saved last, by the server's time; null: nothing to save yet. */
  readonly savedAt: Instant | null;
  readonly allSaved: boolean;
  readonly keepsOnDevice: boolean;
  /** What the server did not take, by the slot: it stays on this device, and is not saved. */
  readonly refusals: readonly RefusedSlot[];
  /** On their way to the server, or refused by it. */
  readonly files: readonly PendingFile[];
}

/** What the server did not take of a slot, and why. */
export interface RefusedSlot {
  readonly slot: number;
  readonly sentence: string;
}

export interface SaveWords {
  readonly mood: "safe" | "working" | "waiting" | "refused";
  readonly words: string;
}

/**
 * What becomes of a save state as the sending goes on; null: nothing. While it tries again the words stay, so that nothing
 * flickers.
 */
export function sendingBecomes(
  { unreachableSince }: Pick<SaveState, "unreachableSince">,
  sending: SendState,
  now: () => Instant,
): Pick<SaveState, "sending" | "unreachableSince"> | null {
  if (sending.kind === "sending" && unreachableSince !== null) return null;
  const isAway = sending.kind === "unreachable" || sending.kind === "signed-out";
  return { sending, unreachableSince: isAway ? (unreachableSince ?? now()) : null };
}

/** Whether one has to sign in again, as the sending tells it. */
export const isSignedOut = (was: boolean, sending: SendState): boolean =>
  sending.kind === "signed-out" || (was && sending.kind !== "idle");

/** The save state in words. */
export function saveWords(state: SaveState, zone: string): SaveWords {
  const { sending, unreachableSince, savedAt, allSaved, keepsOnDevice, refusals } = state;
  // Why stands in the line of messages.
  if (sending.kind === "signed-out")
    return { mood: "refused", words: t("keeping.save-words.not-saved-yet-signed-out") };
  if (refusals.length > 0) return { mood: "refused", words: t("keeping.save-words.some-of-it-is-not-saved") };
  if (sending.kind === "refused")
    return { mood: "refused", words: t("keeping.save-words.not-saved", { sentence: sending.sentence }) };
  if (unreachableSince !== null) {
    const since = timeWithSeconds(unreachableSince, zone);
    return keepsOnDevice
      ? { mood: "waiting", words: t("keeping.save-words.kept-on-this-device-no-connection", { since }) }
      : { mood: "refused", words: t("keeping.save-words.not-saved-no-connection-since-leave", { since }) };
  }
  const waiting = state.files.filter((file) => file.state === "sending" || file.state === "unreachable");
  const [file] = waiting;
  if (file) {
    const share = Math.floor((file.sent / Math.max(1, file.size)) * 100);
    return file.state === "unreachable"
      ? { mood: "waiting", words: t("keeping.save-words.waits-for-the-connection", { name: file.name }) }
      : { mood: "working", words: t("keeping.save-words.sending", { name: file.name, share }) };
  }
  if (!allSaved) return { mood: "working", words: t("keeping.save-words.saving") };
  if (savedAt === null) return { mood: "safe", words: t("keeping.save-words.nothing-to-save-yet") };
  return {
    mood: "safe",
    words: t("keeping.save-words.all-saved", { timeWithSeconds: timeWithSeconds(savedAt, zone) }),
  };
}
