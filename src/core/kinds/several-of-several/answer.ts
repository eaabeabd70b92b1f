import { type Said, said, saidTogether } from "../../said";
import { partly } from "../answer-reading";
import { CONTENT_FIELDS, PRESENTED_FIELDS } from "../fields";
import type { AnsweringKind, PresentedCommon } from "../kind";
import { contentInWords, type PresentedOption } from "../picks/content";

export interface PresentedSeveralOfSeveral extends PresentedCommon {
  readonly kind: "several-of-several";
  readonly options: readonly PresentedOption[];
  /** The fewest and the most options to pick. */
  readonly least: number;
  readonly most: number;
}

/** The picked options, by their names within the attempt, in the order they are shown. */
export interface SeveralOfSeveralAnswer {
  readonly picks: readonly string[];
}

/** "2", "1 to 3", "at least 1", "as many as apply". */
function howMany({ least, most, options }: PresentedSeveralOfSeveral): Said {
  if (least === most) return String(least);
  if (most < options.length)
    return least > 0
      ? said("kinds.several-of-several.answer.from-to", { least, most })
      : said("kinds.several-of-several.answer.up-to", { most });
  return least > 1
    ? said("kinds.several-of-several.answer.at-least", { least })
    : said("kinds.several-of-several.answer.all-that-apply");
}

export const severalOfSeveralAnswering: AnsweringKind<PresentedSeveralOfSeveral, SeveralOfSeveralAnswer> = {
  name: "several-of-several",
  fields: { ...PRESENTED_FIELDS, options: [CONTENT_FIELDS] },
  instruction: (presented) => said("kinds.several-of-several.answer.pick", { howMany: howMany(presented) }),
  readAnswer(presented, raw) {
    if (raw === null) return { ok: true, answer: null };
    const picks = (raw as { picks?: unknown } | undefined)?.picks;
    const known = new Set(presented.options.map((option) => option.id));
    if (!Array.isArray(picks) || picks.some((pick) => !known.has(pick))) {
      return { ok: false, problem: said("kinds.several-of-several.answer.the-answer-must-list-options-of") };
    }
    const chosen = new Set(picks);
    if (chosen.size !== picks.length) {
      return { ok: false, problem: said("kinds.several-of-several.answer.the-answer-must-list-each-option") };
    }
    if (chosen.size > presented.most) {
      return {
        ok: false,
        problem: said("kinds.several-of-several.answer.pick-other-at-most", { most: presented.most }),
      };
    }
    if (chosen.size === 0) return { ok: true, answer: null };
    const ordered = presented.options.filter((option) => chosen.has(option.id)).map((option) => option.id);
    return { ok: true, answer: { picks: ordered } };
  },
  fill(presented, answer) {
    const count = answer?.picks.length ?? 0;
    if (count === 0) return { state: "empty", words: said("kinds.common.empty") };
    if (count < presented.least)
      return partly(
        count,
        presented.least,
        said("kinds.several-of-several.answer.of-picked", { count, least: presented.least }),
      );
    return { state: "full", words: said("kinds.several-of-several.answer.count-picked", { count }) };
  },
  summary(presented, answer) {
    const picked = new Set(answer?.picks ?? []);
    return saidTogether(
      presented.options.filter((option) => picked.has(option.id)).map((option) => contentInWords(option)),
      "dots",
    );
  },
};
