import katex from "katex";
import { RICH_FIELDS } from "./rich-text";

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

/** The formulas in an essay, which keep their TeX as an attribute, drawn in their place. */
const withWrittenFormulas = (rich: string): string =>
  rich.replace(
    /<(span|div)(?=[^>]*data-type="(?:inline|block)-math")[^>]*data-latex="([^"]*)"[^>]*>\s*<\/\1>/g,
    (_, tag: string, tex: string) => `<${tag}>${drawnFormula(plain(tex.replace(/&quot;/g, '"')))}</${tag}>`,
  );

function drawnField(field: string, value: unknown): unknown {
  if (typeof value !== "string") return withDrawnFormulas(value);
  if (RICH_FIELDS.has(field)) return withFormulas(value);
  return field === "rich" ? withWrittenFormulas(value) : value;
}

/** Anything that is shown to a student, with the formulas of its rich texts, its options and its essays drawn. */
export function withDrawnFormulas<T>(shown: T): T {
  if (Array.isArray(shown)) return shown.map(withDrawnFormulas) as T;
  if (typeof shown !== "object" || shown === null) return shown;
  const drawn = Object.entries(shown).map(([field, value]) => [field, drawnField(field, value)]);
  const { formula } = shown as { formula?: unknown };
  return Object.fromEntries(
    typeof formula === "string" ? [...drawn, ["drawn", drawnFormula(formula)]] : drawn,
  ) as T;
}
