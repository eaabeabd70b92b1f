import { type FieldUses, mapFields } from "./fields";

const ENTITIES: Readonly<Record<string, string>> = { "&amp;": "&", "&lt;": "<", "&gt;": ">" };

/**
 * TeX as it was meant, of a text in which it was escaped.
 * @example plainTex("a &lt; b") → "a < b"
 */
export const plainTex = (tex: string): string =>
  tex.replace(/&(amp|lt|gt);/g, (entity) => ENTITIES[entity] ?? entity);

/**
 * Rich text with its formulas, written as \\( ... \\), drawn.
 * @example formulasDrawn("an area of \\(r^2\\)", (tex) => `<i>${tex}</i>`) → "an area of <i>r^2</i>"
 */
export const formulasDrawn = (rich: string, draw: (tex: string) => string): string =>
  rich.includes("\\(") ? rich.replace(/\\\((.+?)\\\)/gs, (_, tex: string) => draw(plainTex(tex))) : rich;

/** The shapes that hold a formula of their own, with it drawn beside it, however deep they are: told by what their kind declares. */
function drawnShapes<T>(value: T, uses: FieldUses, draw: (tex: string) => string): T {
  if (typeof value !== "object" || value === null) return value;
  const changed = { ...value } as Record<string, unknown>;
  for (const [field, use] of Object.entries(uses)) {
    const held = changed[field];
    if (typeof use === "string" || held === undefined) continue;
    if (Array.isArray(use)) {
      const [each] = use as readonly [FieldUses];
      if (Array.isArray(held)) changed[field] = held.map((item) => drawnShapes(item, each, draw));
    } else changed[field] = drawnShapes(held, use as FieldUses, draw);
  }
  const { formula } = changed;
  const isDrawn = Object.values(uses).includes("formula") && typeof formula === "string";
  return (isDrawn ? { ...changed, drawn: draw(formula) } : changed) as T;
}

/** A value with all formulas drawn that its declared fields hold. */
export const drawnFields = <T>(value: T, uses: FieldUses, draw: (tex: string) => string): T =>
  mapFields(drawnShapes(value, uses, draw), uses, (text, use) =>
    use === "rich" ? formulasDrawn(text, draw) : text,
  );
