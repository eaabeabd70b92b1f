import fc from "fast-check";
import { expect, test } from "vitest";
import { nameText, storable, storableValue } from "./storable";

test("what a database refuses is taken out, and every other character stays", () => {
  expect(storable("a\u0000b")).toEqual("ab");
  expect(storable("half \ud83d only")).toEqual("half \ufffd only");
  expect(storable("half \udc1d only")).toEqual("half \ufffd only");
  expect(storable("a bee 🐝, a tab\t, two\r\nlines, é, 中")).toEqual(
    "a bee 🐝, a tab\t, two\r\nlines, é, 中",
  );
});

test("any text at all becomes whole Unicode without control characters, and cleaning it again changes nothing", () => {
  const units = fc.array(fc.integer({ min: 0, max: 0xffff }), { maxLength: 30 });
  fc.assert(
    fc.property(units, (codes) => {
      const clean = storable(String.fromCharCode(...codes));
      expect(clean).not.toMatch(/\p{Cs}/u);
      expect(clean.replace(/[\t\n\r]/g, "")).not.toMatch(/(?![\u0080-\u009f])\p{Cc}/u);
      expect(storable(clean)).toBe(clean);
    }),
    { numRuns: 2_000 },
  );
});

test("a name loses what would turn it around or hide in it", () => {
  expect(nameText("essay\u202efdp.exe")).toEqual("essayfdp.exe");
  expect(nameText("  page\u200b one\n.png ")).toEqual("page one .png");
});

test("texts are cleaned however deep they lie, also as the names of fields", () => {
  expect(storableValue({ "a\u0000": ["x\u0001", { deep: "\ud800" }, 3, null, true] })).toEqual({
    a: ["x", { deep: "\ufffd" }, 3, null, true],
  });
});
