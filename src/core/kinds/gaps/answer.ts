import { said, saidTogether } from "../../said";
import { accept, fieldOf, isRecord, partly, refuse } from "../answer-reading";
import { CONTENT_FIELDS, PRESENTED_FIELDS } from "../fields";
import type { AnsweringKind, PresentedCommon } from "../kind";
import { contentInWords, type PresentedOption } from "../picks/content";
import { LONGEST_SHORT_TEXT } from "../short-text/answer";

/** A gap that is typed into, or chosen for. */
export interface PresentedGap {
  readonly id: string;
  /** Null: typed. */
  readonly options: readonly PresentedOption[] | null;
}

export interface PresentedGaps extends PresentedCommon {
  readonly kind: "gaps";
  /** The question's text holds `[[id]]` where the gap is. */
  readonly gaps: readonly PresentedGap[];
}

/** What stands in each gap: the typed text, or the name of the chosen option. Empty ones are left out. */
export interface GapsAnswer {
  readonly gaps: Readonly<Record<string, string>>;
}

export const gapsAnswering: AnsweringKind<PresentedGaps, GapsAnswer> = {
  name: "gaps",
  fields: { ...PRESENTED_FIELDS, gaps: [{ options: [CONTENT_FIELDS] }] },
  heading: ({ text }) => text.replace(/\[\[[^\]]+\]\]/g, "…"),
  instruction: ({ gaps }) =>
    gaps.length === 1 ? said("kinds.gaps.answer.fill-the-gap") : said("kinds.gaps.answer.fill-the-gaps"),
  readAnswer(presented, raw) {
    if (raw === null) return accept<GapsAnswer>(null);
    const gaps = fieldOf(raw, "gaps");
    if (!isRecord(gaps)) return refuse(said("kinds.gaps.answer.the-answer-must-give-a-text"));
    const read: Record<string, string> = {};
    for (const [id, text] of Object.entries(gaps)) {
      const gap = presented.gaps.find((each) => each.id === id);
      if (!gap) return refuse(said("kinds.gaps.answer.the-answer-names-a-gap-that"));
      if (typeof text !== "string" || text.length > LONGEST_SHORT_TEXT) {
        return refuse(said("kinds.gaps.answer.each-gap-takes-a-text-of", { most: LONGEST_SHORT_TEXT }));
      }
      if (text.trim() === "") continue;
      if (gap.options && !gap.options.some((option) => option.id === text)) {
        return refuse(said("kinds.gaps.answer.a-gap-with-options-takes-one"));
      }
      read[id] = text;
    }
    return accept(Object.keys(read).length > 0 ? { gaps: read } : null);
  },
  fill(presented, answer) {
    const count = Object.keys(answer?.gaps ?? {}).length;
    if (count === 0) return { state: "empty", words: said("kinds.common.empty") };
    if (count === presented.gaps.length) return { state: "full", words: said("kinds.common.answered") };
    return partly(
      count,
      presented.gaps.length,
      said("kinds.gaps.answer.of-other-filled", { count, gapsCount: presented.gaps.length }),
    );
  },
  withPart(presented, answer, part, from) {
    const id = presented.gaps[part]?.id ?? "";
    const { [id]: _, ...others } = answer?.gaps ?? {};
    const text = from?.gaps[id];
    const gaps = text === undefined ? others : { ...others, [id]: text };
    return Object.keys(gaps).length > 0 ? { gaps } : null;
  },
  summary(presented, answer) {
    if (!answer) return "";
    return saidTogether(
      presented.gaps.map((gap) => {
        const text = answer.gaps[gap.id];
        if (text === undefined) return "…";
        const option = gap.options?.find((each) => each.id === text);
        return option ? contentInWords(option) : text.trim();
      }),
      "dots",
    );
  },
};
