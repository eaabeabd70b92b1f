import { ZxcvbnFactory } from "@zxcvbn-ts/core";
import { adjacencyGraphs, dictionary } from "@zxcvbn-ts/language-common";
import {
  LONGEST_PASSWORD,
  lettersBeside,
  SHORTEST_PASSWORD,
  WEAKEST,
  wordsAbout,
} from "@/core/text/password-rule";
import { t } from "@/words/t";
import { config } from "../base/config";

let estimate: ZxcvbnFactory | undefined;

/** Why a password is not taken for a person, as a sentence that says what would be right; null when it is. */
export function passwordProblem(
  password: string,
  person: { readonly name: string; readonly email: string },
): string | null {
  if ([...password].length < SHORTEST_PASSWORD)
    return t("server.sign-in.password-rules.a-password-has-characters-or-more", {
      shortest: SHORTEST_PASSWORD,
    });
  if (password.length > LONGEST_PASSWORD)
    return t("server.sign-in.password-rules.a-password-has-characters-at-most", {
      longest: LONGEST_PASSWORD,
    });
  const words = wordsAbout({ ...person, institution: config.institution });
  if (lettersBeside(password, words) < 6)
    return t("server.sign-in.password-rules.this-password-is-made-of-your");
  estimate ??= new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs });
  if (estimate.check(password, words).score < WEAKEST)
    return t("server.sign-in.password-rules.this-password-is-among-those-that");
  return null;
}
