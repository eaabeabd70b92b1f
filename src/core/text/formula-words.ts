/** Commands that stand for a sign, as they are said. */
const SIGNS: Readonly<Record<string, string>> = {
  times: "times",
  cdot: "times",
  div: "divided by",
  pm: "plus or minus",
  le: "at most",
  leq: "at most",
  ge: "at least",
  geq: "at least",
  ne: "not equal to",
  neq: "not equal to",
  approx: "about",
  to: "to",
  rightarrow: "to",
  infty: "infinity",
  degree: "degrees",
  circ: "degrees",
  sum: "the sum of",
  int: "the integral of",
  partial: "partial",
  Delta: "capital delta",
  Omega: "capital omega",
};
const SPOKEN: Readonly<Record<string, string>> = {
  "=": "equals",
  "+": "plus",
  "-": "minus",
  "*": "times",
  "/": "over",
  "<": "less than",
  ">": "more than",
};
/** Longer ones are read as they are written: nobody listens to so much. */
const LONGEST = 400;

/** Reads one formula from its beginning, word by word. */
class Reader {
  #at = 0;
  constructor(private readonly tex: string) {}

  /** All there is until a closing brace, or the end. */
  words(): string[] {
    const said: string[] = [];
    while (this.#at < this.tex.length) {
      const sign = this.tex[this.#at] ?? "";
      if (sign === "}") break;
      said.push(...this.#one());
    }
    return said;
  }

  /** What stands in braces, or the one sign that follows. */
  #group(): string[] {
    while (this.tex[this.#at] === " ") this.#at += 1;
    if (this.tex[this.#at] !== "{") return this.#one();
    this.#at += 1;
    const said = this.words();
    this.#at += 1;
    return said;
  }

  #one(): string[] {
    const sign = this.tex[this.#at] ?? "";
    this.#at += 1;
    if (sign === "\\") return this.#command();
    if (sign === "{") {
      const said = this.words();
      this.#at += 1;
      return said;
    }
    if (sign === "^") return this.#power();
    if (sign === "_") return ["sub", ...this.#group()];
    if (/[\s~&$]/.test(sign)) return [];
    const spoken = SPOKEN[sign];
    if (spoken) return [spoken];
    // A number is one word.
    if (/\d/.test(sign)) {
      let number = sign;
      while (/[\d.]/.test(this.tex[this.#at] ?? "")) {
        number += this.tex[this.#at];
        this.#at += 1;
      }
      return [number];
    }
    return [sign];
  }

  #power(): string[] {
    const power = this.#group().join(" ");
    if (power === "2") return ["squared"];
    if (power === "3") return ["cubed"];
    return power === "degrees" ? ["degrees"] : ["to the power of", power];
  }

  #command(): string[] {
    const [name = ""] = /^[A-Za-z]+/.exec(this.tex.slice(this.#at)) ?? [];
    if (name === "") {
      // Small spaces and escaped signs.
      const sign = this.tex[this.#at] ?? "";
      this.#at += 1;
      return /[%$&#_{}]/.test(sign) ? [sign === "%" ? "per cent" : sign] : [];
    }
    this.#at += name.length;
    if (name === "frac" || name === "dfrac" || name === "tfrac") {
      const [above, below] = [this.#group(), this.#group()];
      return [...above, "over", ...below];
    }
    if (name === "sqrt") return ["the square root of", ...this.#group()];
    if (["text", "mathrm", "mathbf", "mathit", "operatorname"].includes(name)) {
      return [this.#group().join("")];
    }
    if (["left", "right", "quad", "qquad", "displaystyle", "limits"].includes(name)) return [];
    return [SIGNS[name] ?? name];
  }
}

/**
 * A formula in TeX in words, for those who hear it: "\\frac{d}{t}" is "d over t", "x^2" is "x squared". What is not known
 * keeps its name.
 * @example formulaInWords("v = \\frac{d}{t}") === "v equals d over t"
 */
export function formulaInWords(tex: string): string {
  if (tex.length > LONGEST) return tex;
  return new Reader(tex).words().join(" ").replace(/\s+/g, " ").trim();
}
