import katex from "katex";
import type { PaperQuestion } from "@/core/reveal/marked-paper";

/**
 * A formula in TeX as HTML with MathML for screen readers, between marks by which plain text finds the TeX again. What
 * cannot be read is shown as it was written.
 */
const drawnFormula = (tex: string): string => {
  const html = katex.renderToString(tex, {
    throwOnError: false,
    output: "htmlAndMathml",
    trust: false,
    maxExpand: 200,
  });
  return `<!--formula ${tex.replace(/&/g, "&amp;").replace(/>/g, "&gt;")}-->${html}<!--/formula-->`;
};

const ENTITIES: Readonly<Record<string, string>> = { "&amp;": "&", "&lt;": "<", "&gt;": ">" };
const plain = (tex: string) => tex.replace(/&(amp|lt|gt);/g, (entity) => ENTITIES[entity] ?? entity);

/** Rich text with its formulas, written as \\( ... \\), drawn. */
export const withFormulas = (rich: string): string =>
  rich.includes("\\(") ? rich.replace(/\\\((.+?)\\\)/gs, (_, tex: string) => drawnFormula(plain(tex))) : rich;

/** Anything that is shown to a student, with the formulas of its texts and options drawn. */
export function withDrawnFormulas<T>(shown: T): T {
  if (Array.isArray(shown)) return shown.map(withDrawnFormulas) as T;
  if (typeof shown !== "object" || shown === null) return shown;
  const drawn = Object.entries(shown).map(([field, value]) => [
    field,
    field === "text" && typeof value === "string" ? withFormulas(value) : withDrawnFormulas(value),
  ]);
  const { formula } = shown as { formula?: unknown };
  return Object.fromEntries(
    typeof formula === "string" ? [...drawn, ["drawn", drawnFormula(formula)]] : drawn,
  ) as T;
}

/** The formulas in an essay, which keep their TeX as an attribute, drawn in their place. */
const withWrittenFormulas = (rich: string): string =>
  rich.replace(
    /<(span|div)(?=[^>]*data-type="(?:inline|block)-math")[^>]*data-latex="([^"]*)"[^>]*>\s*<\/\1>/g,
    (_, tag: string, tex: string) => `<${tag}>${drawnFormula(plain(tex.replace(/&quot;/g, '"')))}</${tag}>`,
  );

/** A question of the marked paper with all its formulas drawn, also those that its student wrote. */
export const withPaperFormulas = (question: PaperQuestion): PaperQuestion => ({
  ...withDrawnFormulas(question),
  parts: question.parts.map((part) => ({
    ...part,
    ...(part.feedback === undefined ? {} : { feedback: withFormulas(part.feedback) }),
  })),
  ...(question.worked === undefined ? {} : { worked: withFormulas(question.worked) }),
  ...(question.readMore === undefined ? {} : { readMore: withFormulas(question.readMore) }),
  ...(question.shown?.kind === "rich"
    ? { shown: { kind: "rich", rich: withWrittenFormulas(question.shown.rich) } }
    : {}),
});
