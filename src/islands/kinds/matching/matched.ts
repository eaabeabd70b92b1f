import type { MatchingAnswer, PresentedMatching } from "@/core/kinds/matching/answer";

/**
 * The answer after a prompt was given a target, or none (null). Where a target can be used once, it is taken from the
 * prompt that had it.
 */
export function matched(
  question: Pick<PresentedMatching, "once">,
  pairs: MatchingAnswer["pairs"],
  prompt: string,
  target: string | null,
): MatchingAnswer | null {
  const others = Object.entries(pairs).filter(
    ([each, had]) => each !== prompt && !(question.once && had === target),
  );
  const next = target === null ? others : [...others, [prompt, target] as const];
  return next.length > 0 ? { pairs: Object.fromEntries(next) } : null;
}
