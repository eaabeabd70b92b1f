import { HEAD, OUTLINE, outlineOf, PIECES_BEGIN, type Pieces, questionsOf, RULES } from "@/core/draft/pieces";
import type { Step } from "@/core/draft/to-put-right";
import { fieldsOf } from "@/core/kinds/fields";
import { marking } from "@/core/kinds/marking";
import { t } from "@/words/t";
import type { Here } from "./composer-store";
import { sectionName } from "./PaperList";

/** Where a step leads, and what that place is called. */
export function stepPlace(
  pieces: Pieces,
  { slot, path }: Pick<Step, "slot" | "path">,
): { readonly here: Here; readonly name: string } {
  const at = (to: number, name: string) => ({ here: { kind: "piece" as const, slot: to }, name });
  if (slot === HEAD) return at(HEAD, t("composer.paper-list.title-and-brief"));
  if (slot === RULES) return at(RULES, t("composer.paper-list.rules"));
  const { sections } = outlineOf(pieces);
  if (slot === OUTLINE) {
    const place = Number(/^\[(\d+)\]/.exec(path)?.[1] ?? 0);
    const section = sections[place];
    return section
      ? { here: { kind: "section", id: section.id }, name: sectionName(section, place) }
      : at(HEAD, t("composer.paper-list.the-paper"));
  }
  const questions = questionsOf(pieces);
  const number = questions.findIndex((each) => each.slot === slot);
  if (number >= 0) return at(slot, t("composer.question-written.question", { number: number + 1 }));
  // A picture or a recording: where it is shown first.
  const piece = pieces.get(slot);
  const id =
    piece?.piece === "picture" ? piece.picture.id : piece?.piece === "recording" ? piece.recording.id : "";
  const shown = questions.findIndex(
    ({ question }) =>
      question.recording === id || fieldsOf(question, marking(question.kind).fields, "picture").includes(id),
  );
  const found = questions[shown];
  if (found && slot >= PIECES_BEGIN)
    return at(found.slot, t("composer.question-written.question", { number: shown + 1 }));
  const place = sections.findIndex(({ stimulus }) => stimulus?.figure === id);
  const section = sections[place];
  return section
    ? { here: { kind: "section", id: section.id }, name: sectionName(section, place) }
    : at(HEAD, t("composer.paper-list.the-paper"));
}
