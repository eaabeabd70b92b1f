import { ZxcvbnFactory } from "@zxcvbn-ts/core";
import { adjacencyGraphs, dictionary } from "@zxcvbn-ts/language-common";
import {
  LONGEST_PASSWORD,
  lettersBeside,
  SHORTEST_PASSWORD,
  WEAKEST,
  wordsAbout,
} from "@/core/text/password-rule";
import { config } from "../config";

let estimate: ZxcvbnFactory | undefined;

/** Why a password is not taken for a person, as a sentence that says what would be right; null when it is. */
export function passwordProblem(
  password: string,
  person: { readonly name: string; readonly email: string },
): string | null {
  if ([...password].length < SHORTEST_PASSWORD)
    return `A password has ${SHORTEST_PASSWORD} characters or more; a few words in a row are easy to remember.`;
  if (password.length > LONGEST_PASSWORD) return `A password has ${LONGEST_PASSWORD} characters at most.`;
  const words = wordsAbout({ ...person, institution: config.institution });
  if (lettersBeside(password, words) < 6)
    return "This password is made of your name or address, which is the first thing that is tried. Take words that have nothing to do with you.";
  estimate ??= new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs });
  if (estimate.check(password, words).score < WEAKEST)
    return "This password is among those that are tried first. Take a few words that have nothing to do with each other.";
  return null;
}
