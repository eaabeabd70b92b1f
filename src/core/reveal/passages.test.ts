import { expect, test } from "vitest";
import { withPassages } from "./passages";

test("each passage is marked with its number, outside of tags", () => {
  const { rich, found } = withPassages(
    '<p title="one day">The day & one day <em>after</em></p>'.replace("&", "&amp;"),
    [{ words: "one day" }, { words: "day &" }, { words: "day after" }],
  );
  expect(rich).toBe(
    '<p title="one day">The <mark data-passage="2">day &amp;<sup>2</sup></mark> <mark data-passage="1">one day<sup>1</sup></mark> <em>after</em></p>',
  );
  // Across a change of its look it is not found.
  expect(found).toEqual([true, true, false]);
});

test("passages that overlap are marked once; empty words nowhere", () => {
  const { rich, found } = withPassages("<p>abc def</p>", [
    { words: "abc" },
    { words: "bc d" },
    { words: " " },
  ]);
  expect(rich).toBe('<p><mark data-passage="1">abc<sup>1</sup></mark> def</p>');
  expect(found).toEqual([true, false, false]);
});
