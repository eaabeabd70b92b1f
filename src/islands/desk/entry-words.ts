import type { SlotState } from "./desk-state";

const TOLD_WORDS = {
  full: "right",
  part: "partly right",
  none: "not right",
  empty: "empty",
  awaits: "waits for marking",
} as const;

/** How far a question is answered, in a word or two. */
export function fillWords({ standing, fill }: Pick<SlotState, "standing" | "fill">): string {
  if (standing === "ahead") return "not open yet";
  if (fill.state === "part") return fill.words;
  return fill.state === "full" ? "answered" : "empty";
}

/** A question of the row in words, for its tooltip and for screen readers. */
export function entryWords(slot: number, record: SlotState, here: boolean): string {
  return [
    `Question ${slot}`,
    here ? "here" : "",
    record.isDeclaration ? "a declaration" : "",
    fillWords(record),
    record.told ? TOLD_WORDS[record.told.state] : "",
    record.ribbon ? "with a ribbon" : "",
    record.standing === "closed" ? "closed" : "",
    record.saved ? "" : "not on the server yet",
  ]
    .filter(Boolean)
    .join(", ");
}
