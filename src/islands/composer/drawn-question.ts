import katex from "katex";
import { answering, type PresentedQuestion } from "@/core/kinds/answering";
import { type FieldUses, mapFields } from "@/core/kinds/fields";

const drawn = (tex: string): string =>
  katex.renderToString(tex, { throwOnError: false, trust: false, maxExpand: 200, maxSize: 8 });

const plain = (tex: string): string => tex.replace(/&lt;/g, "<").replace(/&gt;/g, ">").replace(/&amp;/g, "&");

const withFormulas = (rich: string): string =>
  rich.replace(/\\\((.+?)\\\)/gs, (_, tex: string) => drawn(plain(tex)));

/** The shapes that hold a formula of their own, with it drawn beside it. */
function drawnShapes<T>(value: T, uses: FieldUses): T {
  if (typeof value !== "object" || value === null) return value;
  const changed = { ...value } as Record<string, unknown>;
  for (const [field, use] of Object.entries(uses)) {
    const held = changed[field];
    if (typeof use === "string" || held === undefined) continue;
    if (Array.isArray(use)) {
      const [each] = use as readonly [FieldUses];
      if (Array.isArray(held)) changed[field] = held.map((item) => drawnShapes(item, each));
    } else changed[field] = drawnShapes(held, use as FieldUses);
  }
  return (typeof changed.formula === "string" ? { ...changed, drawn: drawn(changed.formula) } : changed) as T;
}

/** A question as its student will see it, with its formulas drawn. */
export function drawnInPage<Q extends PresentedQuestion>(question: Q): Q {
  const { fields } = answering(question.kind);
  return mapFields(drawnShapes(question, fields), fields, (text, use) =>
    use === "rich" ? withFormulas(text) : text,
  );
}
