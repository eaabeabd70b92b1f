import { type CommaMeans, readNumber } from "../../numbers/read-number";
import type { UnitMeanings } from "../../numbers/unit-names";
import { unitInWords } from "../../numbers/unit-names";
import { type Said, said } from "../../said";
import { partly } from "../answer-reading";
import { PRESENTED_FIELDS } from "../fields";
import type { AnsweringKind, PresentedCommon } from "../kind";

export interface PresentedPart {
  readonly id: string;
  /** Rich text; "" when the question has one part and says it all. */
  readonly text: string;
  readonly marks: string;
  /** What else holds beside the box: that a part builds on an earlier one; "" when there is nothing. */
  readonly ruleWords: Said;
  /** The earlier parts that it builds on, also by way of others: they are checked with it. */
  readonly buildsOn: readonly string[];
  /** The unit that is printed behind the box, or "". */
  readonly unit: string;
  /** Whether the unit has to be written. */
  readonly unitNeeded: boolean;
  /** The author's own unit, where it is none that has a name here; "" where it has. */
  readonly ownUnit: string;
  /** The significant figures that are asked for; 0: as many as one likes. */
  readonly figures: number;
}

export interface PresentedNumeric extends PresentedCommon {
  readonly kind: "numeric";
  readonly parts: readonly PresentedPart[];
  /** What a comma before three digits means; null: it is asked. */
  readonly comma: CommaMeans;
  /** What unit symbols mean here beyond the usual. */
  readonly unitMeanings: UnitMeanings;
}

/** What was written in each part's box, letter for letter. A part with nothing written is left out. */
export interface NumericAnswer {
  readonly parts: Readonly<Record<string, string>>;
}

/** The longest text that a numeric box keeps. What is longer than a number can be is kept all the same, and said. */
const LONGEST_NUMBER = 500;

const isWritten = (text: string | undefined): text is string => text !== undefined && text.trim() !== "";

/** One thing that is asked of a written number, and whether it is there. */
export interface Asked {
  readonly what: "value" | "unit" | "figures";
  readonly met: boolean;
  /** "read as 4.2", "“blorg” is not a unit known here", "2 of the 3 significant figures asked for". */
  readonly words: Said;
  /** The two writings to choose from, where a number can be read in two ways. */
  readonly either?: readonly [string, string];
}

/** What of a part decides how its text is read. */
export type NumberTerms = Pick<PresentedPart, "unitNeeded" | "ownUnit" | "figures" | "unit"> &
  Pick<PresentedNumeric, "comma" | "unitMeanings">;

/**
 * How a text is read, as the list of what is asked for: its value, its unit and its figures. A text that is not readable,
 * has a unit that is not known or none where one is needed, or too few figures is not complete, wherever that counts.
 */
export function askedOf(text: string, terms: NumberTerms): Asked[] {
  const reading = readNumber(text, { comma: terms.comma });
  if (!reading.ok) {
    const { problem, either } = reading;
    return [{ what: "value", met: false, words: problem, ...(either ? { either } : {}) }];
  }
  const asked: Asked[] = [
    { what: "value", met: true, words: said("kinds.numeric.answer.read-as", { plain: reading.plain }) },
  ];
  if (reading.unit !== null) {
    const isOwn = reading.unit === terms.ownUnit || reading.unit === terms.unit;
    const words = unitInWords(reading.unit, reading.value.equals(1), terms.unitMeanings);
    const quoted = `“${reading.unit.slice(0, 20)}”`;
    asked.push(
      words === null && !isOwn
        ? { what: "unit", met: false, words: said("kinds.numeric.answer.is-no-unit-known-here", { quoted }) }
        : { what: "unit", met: true, words: words ?? reading.unit },
    );
  } else if (terms.unitNeeded) {
    asked.push({ what: "unit", met: false, words: said("kinds.numeric.answer.the-unit-is-missing") });
  }
  if (terms.figures > 0 && reading.figures !== Number.POSITIVE_INFINITY) {
    const isEnough = reading.figures >= terms.figures;
    asked.push({
      what: "figures",
      met: isEnough,
      words: isEnough
        ? said("kinds.numeric.answer.figures", { figures: reading.figures })
        : said("kinds.numeric.answer.of-the-other-asked-for", {
            figures: reading.figures,
            figures2: terms.figures,
          }),
    });
  }
  return asked;
}

/**
 * Whether nothing that is asked of a text is missing.
 * @example isComplete("", { figures: 0 }) → false
 */
export const isComplete = (text: string, terms: NumberTerms): boolean =>
  askedOf(text, terms).every(({ met }) => met);

export const numericAnswering: AnsweringKind<PresentedNumeric, NumericAnswer> = {
  name: "numeric",
  fields: { ...PRESENTED_FIELDS, parts: [{ text: "rich" }] },
  instruction: (presented) =>
    presented.parts.length > 1
      ? said("kinds.numeric.answer.write-a-number-for-each-part")
      : said("kinds.numeric.answer.write-a-number"),
  readAnswer(presented, raw) {
    if (raw === null) return { ok: true, answer: null };
    const parts = (raw as { parts?: unknown } | undefined)?.parts;
    if (typeof parts !== "object" || parts === null || Array.isArray(parts)) {
      return { ok: false, problem: said("kinds.numeric.answer.the-answer-must-give-a-text") };
    }
    const known = new Set(presented.parts.map((part) => part.id));
    const read: Record<string, string> = {};
    for (const [id, text] of Object.entries(parts)) {
      if (!known.has(id))
        return { ok: false, problem: said("kinds.numeric.answer.the-answer-names-a-part-that") };
      if (typeof text !== "string" || text.length > LONGEST_NUMBER) {
        return {
          ok: false,
          problem: said("kinds.numeric.answer.each-part-takes-a-text-of", { most: LONGEST_NUMBER }),
        };
      }
      if (isWritten(text)) read[id] = text;
    }
    return { ok: true, answer: Object.keys(read).length > 0 ? { parts: read } : null };
  },
  fill(presented, answer) {
    const texts = presented.parts.map((part) => [part, answer?.parts[part.id]] as const);
    const written = texts.filter(([, text]) => isWritten(text)).length;
    if (written === 0) return { state: "empty", words: said("kinds.common.empty") };
    const { comma, unitMeanings } = presented;
    const count = texts.filter(
      ([part, text]) => isWritten(text) && isComplete(text, { ...part, comma, unitMeanings }),
    ).length;
    if (count === presented.parts.length) return { state: "full", words: said("kinds.common.answered") };
    const parts = presented.parts.length;
    if (presented.parts.length === 1) return partly(1, 2, said("kinds.numeric.answer.not-complete-yet"));
    return partly(
      count + (written - count) / 2,
      presented.parts.length,
      count === written
        ? said("kinds.numeric.answer.of-answered", { count, parts })
        : said("kinds.numeric.answer.of-written-complete", {
            written,
            parts,
            count,
          }),
    );
  },
  withPart(presented, answer, part, from) {
    const id = presented.parts[part]?.id ?? "";
    const { [id]: _, ...others } = answer?.parts ?? {};
    const text = from?.parts[id];
    const parts = text === undefined ? others : { ...others, [id]: text };
    return Object.keys(parts).length > 0 ? { parts } : null;
  },
  summary(presented, answer) {
    if (!answer) return "";
    const written = presented.parts.map((part) => [part, answer.parts[part.id]?.trim() ?? ""] as const);
    if (presented.parts.length === 1) return written.map(([, text]) => text).join("");
    return written.map(([part, text]) => `${part.id}: ${text === "" ? "empty" : text}`).join(" · ");
  },
};
