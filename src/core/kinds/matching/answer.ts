import { CONTENT_FIELDS, PRESENTED_FIELDS } from "../fields";
import type { AnsweringKind, PresentedCommon } from "../kind";
import { contentInWords, type PresentedOption } from "../picks/options";
import { accept, fieldOf, isRecord, partly, refuse } from "../reading";

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
      ? "Match each one; a target is used once at most."
      : "Match each one; a target may be used more than once.",
  readAnswer(presented, raw) {
    if (raw === null) return accept<MatchingAnswer>(null);
    const pairs = fieldOf(raw, "pairs");
    if (!isRecord(pairs)) return refuse("The answer must name a target for each prompt that is matched.");
    const [prompts, targets] = [presented.prompts, presented.targets].map(
      (each) => new Set(each.map(({ id }) => id)),
    );
    const used = new Set<string>();
    const kept: Record<string, string> = {};
    for (const [prompt, target] of Object.entries(pairs)) {
      if (!prompts?.has(prompt)) return refuse("The answer names a prompt that this question does not have.");
      if (typeof target !== "string" || !targets?.has(target)) {
        return refuse("The answer names a target that this question does not have.");
      }
      if (presented.once && used.has(target)) return refuse("A target can be used once only here.");
      used.add(target);
      kept[prompt] = target;
    }
    return accept(used.size > 0 ? { pairs: kept } : null);
  },
  fill(presented, answer) {
    const count = Object.keys(answer?.pairs ?? {}).length;
    if (count === 0) return { state: "empty", words: "empty" };
    const words = `${count} of ${presented.prompts.length} matched`;
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
    return presented.prompts
      .flatMap((prompt) => {
        const target = presented.targets.find(({ id }) => id === answer.pairs[prompt.id]);
        return target ? [`${contentInWords(prompt)} – ${contentInWords(target)}`] : [];
      })
      .join(" · ");
  },
};
