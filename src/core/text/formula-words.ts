import { type Said, said, saidTogether, saysSame } from "../said";

/** Commands that stand for a sign, as they are said. */
const SIGNS: Readonly<Record<string, Said>> = {
  times: said("formula.times"),
  cdot: said("formula.times"),
  div: said("formula.divided-by"),
  pm: said("formula.plus-or-minus"),
  le: said("formula.at-most"),
  leq: said("formula.at-most"),
  ge: said("formula.at-least"),
  geq: said("formula.at-least"),
  ne: said("formula.not-equal-to"),
  neq: said("formula.not-equal-to"),
  approx: said("formula.about"),
  to: said("formula.to"),
  rightarrow: said("formula.to"),
  infty: said("formula.infinity"),
  degree: said("formula.degrees"),
  circ: said("formula.degrees"),
  sum: said("formula.the-sum-of"),
  int: said("formula.the-integral-of"),
  partial: said("formula.partial"),
  Delta: said("formula.capital-delta"),
  Omega: said("formula.capital-omega"),
};
const SPOKEN: Readonly<Record<string, Said>> = {
  "=": said("formula.equals"),
  "+": said("formula.plus"),
  "-": said("formula.minus"),
  "*": said("formula.times"),
  "/": said("formula.over"),
  "<": said("formula.less-than"),
  ">": said("formula.more-than"),
};
/** Longer ones are read as they are written: nobody listens to so much. */
const LONGEST = 400;

/** Reads one formula from its beginning, word by word. */
class Reader {
  #at = 0;
  constructor(private readonly tex: string) {}

  /** All there is until a closing brace, or the end. */
  words(): Said[] {
    const said: Said[] = [];
    while (this.#at < this.tex.length) {
      const sign = this.tex[this.#at] ?? "";
      if (sign === "}") break;
      said.push(...this.#one());
    }
    return said;
  }

  /** What stands in braces, or the one sign that follows. */
  #group(): Said[] {
    while (this.tex[this.#at] === " ") this.#at += 1;
    if (this.tex[this.#at] !== "{") return this.#one();
    this.#at += 1;
    const said = this.words();
    this.#at += 1;
    return said;
  }

  #one(): Said[] {
    const sign = this.tex[this.#at] ?? "";
    this.#at += 1;
    if (sign === "\\") return this.#command();
    if (sign === "{") {
      const said = this.words();
      this.#at += 1;
      return said;
    }
    if (sign === "^") return this.#power();
    if (sign === "_") return [said("formula.sub"), ...this.#group()];
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

  #power(): Said[] {
    const power = saidTogether(this.#group(), "spaces");
    if (power === "2") return [said("formula.squared")];
    if (power === "3") return [said("formula.cubed")];
    return saysSame(power, said("formula.degrees")) ? [power] : [said("formula.power", { power })];
  }

  #command(): Said[] {
    const [name = ""] = /^[A-Za-z]+/.exec(this.tex.slice(this.#at)) ?? [];
    if (name === "") {
      // Small spaces and escaped signs.
      const sign = this.tex[this.#at] ?? "";
      this.#at += 1;
      return /[%$&#_{}]/.test(sign) ? [sign === "%" ? said("formula.per-cent") : sign] : [];
    }
    this.#at += name.length;
    if (name === "frac" || name === "dfrac" || name === "tfrac") {
      const [above, below] = [this.#group(), this.#group()];
      return [...above, said("formula.over"), ...below];
    }
    if (name === "sqrt") return [said("formula.the-square-root-of"), ...this.#group()];
    if (["text", "mathrm", "mathbf", "mathit", "operatorname"].includes(name)) {
      return [saidTogether(this.#group(), "nothing")];
    }
    if (["left", "right", "quad", "qquad", "displaystyle", "limits"].includes(name)) return [];
    return [SIGNS[name] ?? name];
  }
}

/**
 * A formula in TeX in words, for those who hear it: "\\frac{d}{t}" is "d over t", "x^2" is "x squared". What is not known
 * keeps its name.
 * @example formulaInWords("x^2") deepEquals said("joined.spaces", { parts: ["x", said("formula.squared")] })
 */
export function formulaInWords(tex: string): Said {
  return tex.length > LONGEST ? tex : saidTogether(new Reader(tex).words(), "spaces");
}
