/** A password has so many characters at least. */
export const SHORTEST_PASSWORD = 12;
export const LONGEST_PASSWORD = 200;
/** On the scale of 0 to 4 of the estimate: what is below could be guessed by whoever tries common ones. */
export const WEAKEST = 3;

/**
 * The words that anyone who knows of a person would try: of the name, the address and the institution.
 * @example wordsAbout({ name: "Noor Haldane", email: "noor@alderquay.example", institution: "Alder Quay" }) → ["noor", "haldane", "alderquay", "example", "alder", "quay", "noorhaldane"]
 */
export function wordsAbout(person: {
  readonly name: string;
  readonly email: string;
  readonly institution: string;
}): string[] {
  const parts = [person.name, person.email, person.institution].flatMap((text) =>
    text.split(/[^\p{L}\p{N}]+/u),
  );
  const joined = [person.name, person.institution].map((text) => text.replace(/[^\p{L}\p{N}]+/gu, ""));
  return [...new Set([...parts, ...joined].map((word) => word.toLowerCase()))].filter(
    (word) => word.length > 2,
  );
}

/**
 * How many letters and digits of a password are not of such words.
 * @example lettersBeside("noor12", ["noor"]) → 0
 */
export function lettersBeside(password: string, words: readonly string[]): number {
  const longestFirst = [...words].sort((a, b) => b.length - a.length);
  const left = longestFirst.reduce((text, word) => text.replaceAll(word, " "), password.toLowerCase());
  return left.replace(/[^\p{L}]/gu, "").length;
}
