import { type Exact, exact, shown } from "../numbers/exact";
import { type Said, said } from "../said";

export type TypedMark =
  /** Exact, as text with a point. */
  { readonly ok: true; readonly marks: string } | { readonly ok: false; readonly problem: Said };

/** Digits with at most four decimals, with a point or a comma before them. */
const FIGURE = /^\d{1,8}(?:[.,]\d{1,4})?$/;

/**
 * A mark as a person types it, out of a maximum.
 * @example typedMark(" 18,5 ", exact(20)) → { ok: true, marks: "18.5" }
 */
export function typedMark(text: string, maximum: Exact): TypedMark {
  const figure = text.trim();
  if (!FIGURE.test(figure)) return { ok: false, problem: said("gradebook.typed-mark.no-figure", { figure }) };
  const marks = figure.replace(",", ".");
  if (exact(marks).compare(maximum) > 0)
    return { ok: false, problem: said("gradebook.typed-mark.above", { figure, maximum: shown(maximum) }) };
  return { ok: true, marks };
}
