import fc from "fast-check";
import { expect, test } from "vitest";
import { passageText, withPassages } from "./passages";

const DAY = '<p title="one day">The day &amp; one day <em>after</em></p>';

test("each passage is marked with its number, outside of tags, also over a change of its look", () => {
  const { rich, found } = withPassages(DAY, [
    { words: "one day" },
    { words: "day &" },
    { words: "day after" },
  ]);
  expect(rich).toBe(
    '<p title="one day">The <mark data-passage="2">day &amp;<sup>2</sup></mark> <mark data-passage="1">one </mark><mark data-passage="1 3">day<sup>1</sup></mark><mark data-passage="3"> </mark><em><mark data-passage="3">after<sup>3</sup></mark></em></p>',
  );
  expect(found).toEqual([true, true, true]);
});

test("the same words twice: the offset says which; where it does not fit, the words are looked for", () => {
  const at = (from?: number) => withPassages("<p>ebb, then ebb</p>", [{ words: "ebb", from }]).rich;
  expect(at(10)).toBe('<p>ebb, then <mark data-passage="1">ebb<sup>1</sup></mark></p>');
  expect(at()).toBe('<p><mark data-passage="1">ebb<sup>1</sup></mark>, then ebb</p>');
  expect(at(4)).toBe(at());
  expect(withPassages("<p>flood</p>", [{ words: "ebb", from: 0 }, { words: " " }]).found).toEqual([
    false,
    false,
  ]);
});

test("a formula is no text, drawn or not", () => {
  const drawn = "<p>so <span><!--formula a&gt;b--><b>a>b</b><!--/formula--></span> is it</p>";
  expect(passageText(drawn)).toBe("so  is it");
  expect(withPassages(drawn, [{ words: "is it", from: 4 }]).rich).toContain('<mark data-passage="1">is it');
});

test("whatever is marked, the text stays the same, and what is marked is the passage", () => {
  const piece = fc.constantFrom(
    "one ",
    "two",
    "&amp;",
    "&lt;b&gt;",
    " 💧 ",
    "ß",
    "<em>",
    "</em>",
    "</p><p>",
    "<br />",
  );
  fc.assert(
    fc.property(
      fc.array(piece, { minLength: 1, maxLength: 30 }),
      fc.array(fc.tuple(fc.nat(60), fc.nat(20)), { maxLength: 4 }),
      (pieces, spans) => {
        const rich = `<p>${pieces.join("")}</p>`;
        const text = passageText(rich);
        const passages = spans.map(([from, length]) => ({ from, words: text.slice(from, from + length) }));
        const marked = withPassages(rich, passages);
        // Without the marks it is what it was.
        const bare = marked.rich.replace(/<sup>\d+<\/sup>|<mark[^>]*>|<\/mark>/g, "");
        expect(bare).toBe(rich);
        passages.forEach(({ words }, i) => {
          expect(marked.found[i]).toBe(words.trim() !== "");
          const own = [...marked.rich.matchAll(/<mark data-passage="([\d ]+)">(.*?)<\/mark>/g)]
            .filter(([, numbers]) => numbers?.split(" ").includes(String(i + 1)))
            .map(([, , inner = ""]) => passageText(inner.replace(/<sup>\d+<\/sup>/g, "")));
          if (words.trim() !== "") expect(own.join("")).toBe(words);
        });
      },
    ),
  );
});
