import { plainText } from "../kinds/text";
import { counted } from "../time/words";
import type { QuizRules } from "./rules";

const WORDS = [
  "one",
  "two",
  "three",
  "four",
  "five",
  "six",
  "seven",
  "eight",
  "nine",
  "ten",
  "eleven",
  "twelve",
];
const NUMBER = `\\d+(?:[.,]\\d+)?|${WORDS.join("|")}`;

/** What an instructor's text can name by a number, and what the settings say of it; null: nothing is set. */
interface Told {
  readonly unit: RegExp;
  readonly set: number | null;
  readonly words: string;
}

function numberIn(text: string): number {
  const word = WORDS.indexOf(text.toLowerCase());
  return word >= 0 ? word + 1 : Number(text.replace(",", "."));
}

/**
 * Where the instructor's own words name another number than the settings: a sentence each, for the instructor's eyes. It
 * can be meant otherwise ("come five minutes early"), so it is a remark and refuses nothing.
 */
export function toldOtherwise(
  brief: string,
  settings: { readonly rules: QuizRules; readonly questions: number; readonly maximum: number },
): string[] {
  const { rules, questions, maximum } = settings;
  const limit = rules.timeLimit ?? null;
  const limitWords =
    limit === null ? "there is no time limit" : `the time limit is ${counted(limit, "minute")}`;
  const all: Told[] = [
    {
      unit: /^(?:minutes?|min)$/i,
      set: limit,
      words: limitWords,
    },
    {
      unit: /^(?:hours?|h)$/i,
      set: limit === null ? null : limit / 60,
      words: limitWords,
    },
    {
      unit: /^(?:attempts?|goes)$/i,
      set: rules.attempts ?? null,
      words:
        rules.attempts === undefined
          ? "attempts are not limited"
          : `${counted(rules.attempts, "attempt")} ${rules.attempts === 1 ? "is" : "are"} allowed`,
    },
    {
      unit: /^questions?$/i,
      set: questions,
      words: `there ${questions === 1 ? "is" : "are"} ${counted(questions, "question")}`,
    },
    {
      unit: /^(?:marks?|points?)$/i,
      set: maximum,
      words: `the quiz is out of ${counted(maximum, "mark")}`,
    },
  ];
  const named = plainText(brief).matchAll(new RegExp(`\\b(${NUMBER})[\\s\\u00a0-]+([a-z]+)`, "gi"));
  const remarks = [...named].flatMap(([words, number = "", unit = ""]) => {
    const told = all.find((each) => each.unit.test(unit));
    return told && numberIn(number) !== told.set ? [`Your text says “${words}”; ${told.words}.`] : [];
  });
  return [...new Set(remarks)];
}
