import { expect, test } from "vitest";
import { drawWritten } from "./written-formulas";

test("formulas are drawn, each once, and what cannot be is shown as it was written", async () => {
  const deep = "{".repeat(200);
  const drawings = await drawWritten(["a^2", "\\frac{1}", deep, "a^2", "<b>"]);
  expect(drawings.get("a^2")).toContain("<math");
  expect(drawings.get(deep)).toBe(`<code>${deep}</code>`);
  expect(drawings.get("<b>")).not.toContain("<b>");
  expect(drawings.size).toBe(4);
});

test("a page full of the costliest formulas takes no longer than the limit, and the thread that answers goes on meanwhile", async () => {
  // As long as a formula may be, and two hundred of them: more than a text may have together.
  const costly = Array.from({ length: 200 }, (_, i) => `${i}${"\\frac{a}{b}".repeat(90)}`);
  const from = performance.now();
  let longest = 0;
  let last = from;
  const beat = setInterval(() => {
    longest = Math.max(longest, performance.now() - last);
    last = performance.now();
  }, 5);
  const drawings = await drawWritten(costly);
  clearInterval(beat);
  expect(performance.now() - from).toBeLessThan(6_000);
  expect(longest).toBeLessThan(500);
  expect(drawings.size).toBe(200);
  // Whatever became of that, the next one is drawn.
  expect((await drawWritten(["b^3"])).get("b^3")).toContain("<math");
});
