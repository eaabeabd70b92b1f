import fc from "fast-check";
import { expect, test } from "vitest";
import { english } from "../../../tests/support/english";
import { formulaInWords } from "./formula-words";

test.each([
  ["v = \\frac{d}{t}", "v equals d over t"],
  ["x^2 + 1", "x squared plus 1"],
  ["10^{-3}", "10 to the power of minus 3"],
  ["\\sqrt{16.5}", "the square root of 16.5"],
  ["h_1 \\cdot 4.2\\,\\mathrm{m}", "h sub 1 times 4.2 m"],
  ["73^\\circ", "73 degrees"],
  ["25\\,\\%", "25 per cent"],
  ["\\alpha \\le \\beta", "alpha at most beta"],
  ["\\frac{\\frac{a}{b}}{2}", "a over b over 2"],
])("%s is said as %s", (tex, words) => expect(formulaInWords(tex)).toEqual(words));

test("no text makes it throw or hang", () => {
  fc.assert(
    fc.property(
      fc.string({ unit: fc.constantFrom(..."\\{}^_ab1 frac sqrt".split("")), maxLength: 300 }),
      (tex) => {
        expect(typeof english(formulaInWords(tex))).toEqual("string");
      },
    ),
  );
  expect(english(formulaInWords("{".repeat(400))).length).toBeLessThan(401);
});
