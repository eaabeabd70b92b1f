import { said } from "@/core/said";
import { say, t } from "@/words/t";
import type { SlotOnScreen } from "./desk-state";

const TOLD_WORDS = {
  full: said("desk.entry-words.right"),
  part: said("desk.entry-words.partly-right"),
  none: said("desk.entry-words.not-right"),
  empty: said("desk.entry-words.empty"),
  awaits: said("desk.entry-words.waits-for-marking"),
  dropped: said("ui.mark-states.dropped"),
} as const;

/** How far a question is answered, in a word or two. */
export function fillWords({ access, fill }: Pick<SlotOnScreen, "access" | "fill">): string {
  if (access === "ahead") return t("desk.all-questions.not-open-yet");
  if (fill.state === "part") return say(fill.words);
  return fill.state === "full" ? t("desk.entry-words.answered") : t("desk.entry-words.empty");
}

/** A question of the row in words, for its tooltip and for screen readers. */
export function entryWords(slot: number, record: SlotOnScreen, here: boolean): string {
  return [
    t("desk.entry-words.question", { slot }),
    here ? t("desk.entry-words.here") : "",
    record.isDeclaration ? t("desk.entry-words.a-declaration") : "",
    fillWords(record),
    record.told ? say(TOLD_WORDS[record.told.state]) : "",
    record.ribbon ? t("desk.entry-words.with-a-ribbon") : "",
    record.access === "closed" ? t("desk.entry-words.closed") : "",
    record.saved ? "" : t("desk.all-questions.not-on-the-server-yet"),
  ]
    .filter(Boolean)
    .join(t("joint.commas"));
}
