/** What stands in a sentence: a number, a text that has no language of its own, or another sentence. */
export type SaidValue = Said | number | readonly Said[];

/** A sentence as it is meant: the code of its words in the catalogue, with what stands in it. */
export type Coded = {
  readonly code: string;
  readonly values?: Readonly<Record<string, SaidValue>>;
};

/**
 * What the core has to say. A code is said in the reader's language; a plain text is what somebody wrote (a title, a name,
 * a number) and is said as it is. Marks are stored with it, so that an old mark reads in its reader's language.
 */
export type Said = string | Coded;

/**
 * A sentence as it is meant.
 * @example said("attempt.late.days", { days: 2 }) → { code: "attempt.late.days", values: { days: 2 } }
 */
export const said = (code: string, values?: Readonly<Record<string, SaidValue>>): Coded =>
  values ? { code, values } : { code };

/** How several are put together: sentences, a list with commas or semicolons, one with "and" or "or", with dots or spaces between, or with nothing. */
export type Joint = "sentences" | "commas" | "semicolons" | "and" | "or" | "dots" | "spaces" | "nothing";

/**
 * Several together, without those that are empty; "" when all are.
 * @example saidTogether(["one", "", "two"], "commas") → { code: "joined.commas", values: { parts: ["one", "two"] } }
 */
export function saidTogether(parts: readonly Said[], joint: Joint): Said {
  const there = parts.filter((part) => part !== "");
  const [only = ""] = there;
  return there.length < 2 ? only : said(`joined.${joint}`, { parts: there });
}

/**
 * Whether two say the same.
 * @example saysSame(said("time.length", { length: 1 }), said("time.length", { length: 1 })) → true
 */
export const saysSame = (one: Said, other: Said): boolean => JSON.stringify(one) === JSON.stringify(other);
