import { readNumber } from "../../numbers/read-number";
import { unitInWords } from "../../numbers/unit-names";
import { counted } from "../../time/words";
import { PRESENTED_FIELDS } from "../fields";
import type { AnsweringKind, PresentedCommon } from "../kind";

export interface PresentedPart {
  readonly id: string;
  /** Rich text; "" when the question has one part and says it all. */
  readonly text: string;
  readonly marks: string;
  /** The rule beside the box: "3 significant figures"; "" when there is none. */
  readonly ruleWords: string;
  /** The unit that is printed behind the box, or "". */
  readonly unit: string;
  /** Whether the unit has to be written. */
  readonly unitNeeded: boolean;
}

export interface PresentedNumeric extends PresentedCommon {
  readonly kind: "numeric";
  readonly parts: readonly PresentedPart[];
  readonly commaIsThousands: boolean;
}

/** What was written in each part's box, letter for letter. A part with nothing written is left out. */
export interface NumericAnswer {
  readonly parts: Readonly<Record<string, string>>;
}

/** The longest text that a numeric box takes. */
export const LONGEST_NUMBER = 80;

const isWritten = (text: string | undefined): text is string => text !== undefined && text.trim() !== "";

/** How a written number is read, for the line beside the box: "read as 4.2", or what would be right. */
export function readingWords(text: string, commaIsThousands = false): { ok: boolean; words: string } {
  const reading = readNumber(text, { commaIsThousands });
  if (!reading.ok) return { ok: false, words: reading.problem };
  const unit = reading.unit ? ` ${unitInWords(reading.unit, reading.value.equals(1))}` : "";
  return { ok: true, words: `read as ${reading.plain}${unit}` };
}

export const numericAnswering: AnsweringKind<PresentedNumeric, NumericAnswer> = {
  name: "numeric",
  fields: { ...PRESENTED_FIELDS, parts: [{ text: "rich" }] },
  instruction: (presented) =>
    presented.parts.length > 1 ? "Write a number for each part." : "Write a number.",
  readAnswer(presented, raw) {
    if (raw === null) return { ok: true, answer: null };
    const parts = (raw as { parts?: unknown } | undefined)?.parts;
    if (typeof parts !== "object" || parts === null || Array.isArray(parts)) {
      return { ok: false, problem: "The answer must give a text for each part that is answered." };
    }
    const known = new Set(presented.parts.map((part) => part.id));
    const kept: Record<string, string> = {};
    for (const [id, text] of Object.entries(parts)) {
      if (!known.has(id))
        return { ok: false, problem: "The answer names a part that this question does not have." };
      if (typeof text !== "string" || text.length > LONGEST_NUMBER) {
        return { ok: false, problem: `Each part takes a text of ${LONGEST_NUMBER} characters at most.` };
      }
      if (isWritten(text)) kept[id] = text;
    }
    return { ok: true, answer: Object.keys(kept).length > 0 ? { parts: kept } : null };
  },
  fill(presented, answer) {
    const count = presented.parts.filter((part) => isWritten(answer?.parts[part.id])).length;
    if (count === 0) return { state: "empty", words: "empty" };
    if (count === presented.parts.length) return { state: "full", words: "answered" };
    return { state: "part", words: `${count} of ${counted(presented.parts.length, "part")} answered` };
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
