import { said, saidTogether } from "../../said";
import { accept, fieldOf, isRecord, partly, refuse } from "../answer-reading";
import { CONTENT_FIELDS, PRESENTED_FIELDS } from "../fields";
import type { AnsweringKind, PresentedCommon } from "../kind";
import { contentInWords, type PresentedOption } from "../picks/content";

export interface PresentedMatching extends PresentedCommon {
  readonly kind: "matching";
  readonly prompts: readonly PresentedOption[];
  /** May be more than the prompts. */
  readonly targets: readonly PresentedOption[];
  /** Whether a target may be used once only. */
  readonly once: boolean;
}

/** The target of each matched prompt, by their names within the attempt. */
export interface MatchingAnswer {
  readonly pairs: Readonly<Record<string, string>>;
}

export const matchingAnswering: AnsweringKind<PresentedMatching, MatchingAnswer> = {
  name: "matching",
  fields: { ...PRESENTED_FIELDS, prompts: [CONTENT_FIELDS], targets: [CONTENT_FIELDS] },
  instruction: ({ once }) =>
    once
      ? said("kinds.matching.answer.match-each-one-a-target-is")
      : said("kinds.matching.answer.match-each-one-a-target-may"),
  readAnswer(presented, raw) {
    if (raw === null) return accept<MatchingAnswer>(null);
    const pairs = fieldOf(raw, "pairs");
    if (!isRecord(pairs)) return refuse(said("kinds.matching.answer.the-answer-must-name-a-target"));
    const [prompts, targets] = [presented.prompts, presented.targets].map(
      (each) => new Set(each.map(({ id }) => id)),
    );
    const used = new Set<string>();
    const read: Record<string, string> = {};
    for (const [prompt, target] of Object.entries(pairs)) {
      if (!prompts?.has(prompt)) return refuse(said("kinds.matching.answer.the-answer-names-a-prompt-that"));
      if (typeof target !== "string" || !targets?.has(target)) {
        return refuse(said("kinds.matching.answer.the-answer-names-a-target-that"));
      }
      if (presented.once && used.has(target))
        return refuse(said("kinds.matching.answer.a-target-can-be-used-once"));
      used.add(target);
      read[prompt] = target;
    }
    return accept(used.size > 0 ? { pairs: read } : null);
  },
  fill(presented, answer) {
    const count = Object.keys(answer?.pairs ?? {}).length;
    if (count === 0) return { state: "empty", words: said("kinds.common.empty") };
    const words = said("kinds.matching.answer.of-matched", { count, promptsCount: presented.prompts.length });
    const asked = presented.prompts.length;
    return count === asked ? { state: "full", words } : partly(count, asked, words);
  },
  withPart(presented, answer, part, from) {
    const id = presented.prompts[part]?.id ?? "";
    const { [id]: _, ...others } = answer?.pairs ?? {};
    const target = from?.pairs[id];
    const pairs = target === undefined ? others : { ...others, [id]: target };
    return Object.keys(pairs).length > 0 ? { pairs } : null;
  },
  summary(presented, answer) {
    if (!answer) return "";
    return saidTogether(
      presented.prompts.flatMap((prompt) => {
        const target = presented.targets.find(({ id }) => id === answer.pairs[prompt.id]);
        return target
          ? [
              said("kinds.matching.answer.pair", {
                prompt: contentInWords(prompt),
                target: contentInWords(target),
              }),
            ]
          : [];
      }),
      "dots",
    );
  },
};
