import type { QuizRules, QuizSettings } from "../quiz/rules";
import { sameValue } from "../same-value";

/**
 * The rules in a draft after the settings of its quiz were changed elsewhere: what the draft itself changed stays as it is
 * there, and all else is as the quiz has it now.
 * @param base the settings that the draft's rules were written on
 * @example settingsTogether({ order: "free", counts: "best", reveal: null }, { counts: "best", reveal: null }, { counts: "latest", reveal: null }).counts → "latest"
 */
export function settingsTogether(rules: QuizRules, base: QuizSettings, now: QuizSettings): QuizRules {
  const [mine, before, theirs] = [rules, base, now] as unknown as Readonly<Record<string, unknown>>[];
  const names = new Set([...Object.keys(before ?? {}), ...Object.keys(theirs ?? {})]);
  const together: Record<string, unknown> = { ...mine };
  for (const name of names) {
    if (!sameValue(mine?.[name], before?.[name])) continue;
    if (theirs?.[name] === undefined) delete together[name];
    else together[name] = theirs[name];
  }
  return together as unknown as QuizRules;
}
