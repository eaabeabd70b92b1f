import { counted } from "../../time/words";
import { CONTENT_FIELDS, PRESENTED_FIELDS } from "../fields";
import type { AnsweringKind, PresentedCommon } from "../kind";
import { contentInWords, type PresentedOption } from "../picks/options";
import { partly } from "../reading";

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
function howMany({ least, most, options }: PresentedSeveralOfSeveral): string {
  if (least === most) return String(least);
  if (most < options.length) return least > 0 ? `${least} to ${most}` : `up to ${most}`;
  return least > 1 ? `at least ${least}` : "all that apply";
}

export const severalOfSeveralAnswering: AnsweringKind<PresentedSeveralOfSeveral, SeveralOfSeveralAnswer> = {
  name: "several-of-several",
  fields: { ...PRESENTED_FIELDS, options: [CONTENT_FIELDS] },
  instruction: (presented) => `Pick ${howMany(presented)}.`,
  readAnswer(presented, raw) {
    if (raw === null) return { ok: true, answer: null };
    const picks = (raw as { picks?: unknown } | undefined)?.picks;
    const known = new Set(presented.options.map((option) => option.id));
    if (!Array.isArray(picks) || picks.some((pick) => !known.has(pick))) {
      return { ok: false, problem: "The answer must list options of this question." };
    }
    const chosen = new Set(picks);
    if (chosen.size !== picks.length) {
      return { ok: false, problem: "The answer must list each option once at most." };
    }
    if (chosen.size > presented.most) {
      return { ok: false, problem: `Pick ${counted(presented.most, "option")} at most.` };
    }
    if (chosen.size === 0) return { ok: true, answer: null };
    const ordered = presented.options.filter((option) => chosen.has(option.id)).map((option) => option.id);
    return { ok: true, answer: { picks: ordered } };
  },
  fill(presented, answer) {
    const count = answer?.picks.length ?? 0;
    if (count === 0) return { state: "empty", words: "empty" };
    if (count < presented.least)
      return partly(count, presented.least, `${count} of ${presented.least} picked`);
    return { state: "full", words: `${count} picked` };
  },
  summary(presented, answer) {
    const picked = new Set(answer?.picks ?? []);
    return presented.options
      .filter((option) => picked.has(option.id))
      .map((option) => contentInWords(option))
      .join(" · ");
  },
};
