import katex from "katex";
import { formulaProblem } from "@/core/text/formulas";

const escaped = (text: string) => text.replace(/&/g, "&amp;").replace(/</g, "&lt;").replace(/>/g, "&gt;");

/** A formula as it was written, where it cannot be drawn. */
export const sourceOf = (tex: string): string => `<code>${escaped(tex)}</code>`;

/**
 * A formula in TeX as HTML with MathML; as it was written where it cannot be drawn, whatever is wrong with it. No part of it
 * is larger than a few lines.
 */
export function drawnTex(tex: string): string {
  if (formulaProblem(tex) !== null) return sourceOf(tex);
  try {
    return katex.renderToString(tex, {
      throwOnError: false,
      output: "htmlAndMathml",
      trust: false,
      maxExpand: 200,
      maxSize: 8,
    });
  } catch {
    return sourceOf(tex);
  }
}
