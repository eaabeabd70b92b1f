import type { RuleTerms } from "@/core/brief/rule-sentences";
import { termsOfQuiz } from "@/core/brief/rule-terms";
import { say } from "@/words/t";
import { now } from "../base/clock";
import { config } from "../base/config";

/** What the sentences about a quiz are made from, for whoever asks now. */
export const ruleTerms = (
  terms: Omit<Parameters<typeof termsOfQuiz>[0], "now" | "zone" | "say">,
): RuleTerms => termsOfQuiz({ ...terms, now: now(), zone: config.zone, say });
