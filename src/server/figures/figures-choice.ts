import type { FiguresChoice } from "./quiz-figures";

/** Which attempts the terms of an address ask for; what cannot be understood asks for nothing. */
export function choiceIn(terms: URLSearchParams): FiguresChoice {
  const number = (name: string): number | null => {
    const text = terms.get(name) ?? "";
    return /^\d{1,15}$/.test(text) ? Number(text) : null;
  };
  return {
    attempts: terms.get("attempts") === "all" ? "all" : "counting",
    version: number("version"),
    sitting: number("sitting"),
    section: terms.get("section") || null,
  };
}
