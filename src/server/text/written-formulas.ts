import { LRUCache } from "lru-cache";
import { formulaProblem } from "@/core/text/formulas";
import { sourceOf } from "./tex";
import { inThread } from "./thread";

const drawn = new LRUCache<string, string>({
  maxSize: 20_000_000,
  sizeCalculation: (html, tex) => html.length + tex.length,
});
/**
 * The formulas that a student wrote, each with its drawing: made in a thread of its own, within a time, and remembered.
 * What is too long or too deep, or takes too long, is shown as it was written.
 */
export async function drawWritten(formulas: readonly string[]): Promise<ReadonlyMap<string, string>> {
  const unknown = [...new Set(formulas)].filter((tex) => formulaProblem(tex) === null && !drawn.has(tex));
  if (unknown.length > 0) {
    const made = await inThread("formulas", unknown);
    made?.forEach((html, i) => {
      drawn.set(unknown[i] ?? "", html);
    });
  }
  return new Map(formulas.map((tex) => [tex, drawn.get(tex) ?? sourceOf(tex)]));
}
