import type { SlotState } from "./desk-state";

const TOLD_WORDS = {
  full: "right",
  part: "partly right",
  none: "not right",
  empty: "empty",
  awaits: "awaits marking",
} as const;

/** The spine in words, for its tooltip and for screen readers. */
export function spineWords(slot: number, spine: SlotState, here: boolean): string {
  const fill =
    spine.standing === "ahead"
      ? "not open yet"
      : spine.fill.state === "part"
        ? spine.fill.words
        : spine.fill.state === "full"
          ? "answered"
          : "empty";
  return [
    `Question ${slot}`,
    here ? "here" : "",
    fill,
    spine.told ? TOLD_WORDS[spine.told.state] : "",
    spine.folded ? "corner folded" : "",
    spine.standing === "closed" ? "closed" : "",
    spine.saved ? "" : "not on the server yet",
  ]
    .filter(Boolean)
    .join(", ");
}
