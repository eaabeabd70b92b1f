import { type Said, said } from "../../said";
import { firstWords, plainText } from "../../text/plain-text";
import { countWords, rangeInWords, type WordRange } from "../../text/word-count";
import { accept, fieldOf, partly, refuse } from "../answer-reading";
import { PRESENTED_FIELDS } from "../fields";
import type { AnsweringKind, PresentedCommon } from "../kind";

/** The longest essay, in characters of its rich text. */
export const LONGEST_ESSAY = 300_000;

export interface PresentedEssay extends PresentedCommon {
  readonly kind: "essay";
  readonly words: WordRange;
}

/** Rich text as it was written; sanitised wherever it is shown. */
export interface EssayAnswer {
  readonly rich: string;
}

/**
 * How many words there are, and how many are missing or too many.
 * @example rangeWords(180, { least: 200, most: 300 }) → "180 words, 20 fewer than asked for"
 */
export function rangeWords(count: number, { least, most }: WordRange): Said {
  if (least !== undefined && count < least)
    return said("kinds.essay.answer.other-fewer-than-asked-for", { count, fewer: least - count });
  if (most !== undefined && count > most)
    return said("kinds.essay.answer.other-more-than-asked-for", { count, more: count - most });
  return said("count.words", { count });
}

const hasContent = (rich: string): boolean => plainText(rich) !== "" || /<(img|table|hr)\b/i.test(rich);

export const essayAnswering: AnsweringKind<PresentedEssay, EssayAnswer> = {
  name: "essay",
  fields: PRESENTED_FIELDS,
  answerFields: { rich: "rich" },
  instruction({ words }) {
    const range = rangeInWords(words);
    return range === ""
      ? said("kinds.essay.answer.write-your-answer")
      : said("kinds.essay.answer.write-your-answer-in", { range });
  },
  readAnswer(_, raw) {
    if (raw === null) return accept<EssayAnswer>(null);
    const rich = fieldOf(raw, "rich");
    if (typeof rich !== "string") return refuse(said("kinds.common.the-answer-must-be-a-text"));
    if (rich.length > LONGEST_ESSAY)
      return refuse(said("kinds.essay.answer.the-text-is-too-long-characters", { most: LONGEST_ESSAY }));
    return accept(hasContent(rich) ? { rich } : null);
  },
  fill({ words }, answer) {
    if (!answer) return { state: "empty", words: said("kinds.common.empty") };
    const count = countWords(answer.rich);
    const short = words.least !== undefined && count < words.least;
    if (short) return partly(count, words.least ?? 1, rangeWords(count, words));
    return { state: "full", words: rangeWords(count, words) };
  },
  summary: (_, answer) => (answer ? firstWords(plainText(answer.rich), 80) : ""),
};
