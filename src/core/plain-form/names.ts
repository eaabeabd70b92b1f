import type { Question } from "../kinds/marking";
import { agreed } from "../kinds/trusted-type";

/**
 * The name of the nth of several: letters, then numbers.
 * @example nameAt(1) → "b"
 */
export const nameAt = (place: number): string =>
  place < 26 ? String.fromCharCode(97 + place) : `n${place + 1}`;

const named = <I extends { readonly id: string }>(items: readonly I[]): I[] =>
  items.map((item, place) => ({ ...item, id: nameAt(place) }));

/**
 * A question with its options, prompts and items named by their places, as the plain form names them; its own name is "".
 * Names that are part of its words stay: of gaps, and of what formulas use.
 */
export function namedByPlace(question: Question): Question {
  const own = { ...question, id: "" };
  switch (own.kind) {
    case "one-of-several":
    case "several-of-several":
    case "declaration":
      return agreed<Question>({ ...own, options: named(own.options) });
    case "gaps":
      return {
        ...own,
        gaps: own.gaps.map((gap) => (gap.options ? { ...gap, options: named(gap.options) } : gap)),
      };
    case "ordering":
      return { ...own, items: named(own.items) };
    case "matching": {
      // In the order in which the prompts come to them; the rest after.
      const wanted = own.prompts.map(({ target }) => target);
      const targets = [...own.targets].sort((a, b) => at(wanted, a.id) - at(wanted, b.id));
      const names = new Map(targets.map(({ id }, place) => [id, nameAt(place)]));
      return {
        ...own,
        prompts: own.prompts.map((prompt, place) => ({
          ...prompt,
          id: nameAt(place),
          target: names.get(prompt.target) ?? prompt.target,
        })),
        targets: named(targets),
      };
    }
    default:
      return own;
  }
}

const at = (wanted: readonly string[], id: string): number => {
  const place = wanted.indexOf(id);
  return place === -1 ? wanted.length : place;
};
