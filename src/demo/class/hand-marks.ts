import type { Rubric } from "@/core/kinds/rubric";
import { exact } from "@/core/numbers/exact";
import { chance } from "@/core/numbers/seeded";

/** The levels of a rubric that an instructor would find reached in work of this quality, 0 to 1; each criterion a little apart. */
export function levelsFor(rubric: Rubric, quality: number, writer: string): Record<string, string> {
  return Object.fromEntries(
    rubric.criteria.map(({ id, levels }) => {
      const next = chance("level", writer, id);
      const found = Math.min(0.999, Math.max(0, quality + (next() - 0.5) * 0.25));
      const rising = [...levels].sort((a, b) => exact(a.points).compare(exact(b.points)));
      return [id, rising[Math.floor(found * rising.length)]?.id ?? ""];
    }),
  );
}

/** What the instructor says to work of this quality. */
export const reasonFor = (quality: number): string =>
  quality > 0.85
    ? "clear and complete"
    : quality > 0.6
      ? "right in the main; see in the rubric what is missing"
      : quality > 0.3
        ? "a beginning; say also why, and how you know"
        : "too short to show what you know; come and see me about it";
