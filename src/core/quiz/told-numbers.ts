import { type Said, said, saysSame } from "../said";
import { plainText } from "../text/plain-text";
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
  readonly words: Said;
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
): Said[] {
  const { rules, questions, maximum } = settings;
  const limit = rules.timeLimit ?? null;
  const limitWords =
    limit === null
      ? said("quiz.told-numbers.there-is-no-time-limit")
      : said("quiz.told-numbers.the-time-limit-is-other", { limit });
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
          ? said("quiz.told-numbers.attempts-are-not-limited")
          : said("quiz.told-numbers.other-other-allowed", { attempts: rules.attempts }),
    },
    {
      unit: /^questions?$/i,
      set: questions,
      words: said("quiz.told-numbers.there-other-other", { questions }),
    },
    {
      unit: /^(?:marks?|points?)$/i,
      set: maximum,
      words: said("quiz.told-numbers.the-quiz-is-out-of-other", { maximum }),
    },
  ];
  const named = plainText(brief).matchAll(new RegExp(`\\b(${NUMBER})[\\s\\u00a0-]+([a-z]+)`, "gi"));
  const remarks = [...named].flatMap(([words, number = "", unit = ""]) => {
    const told = all.find((each) => each.unit.test(unit));
    return told && numberIn(number) !== told.set
      ? [said("quiz.told-numbers.your-text-says", { words, words2: told.words })]
      : [];
  });
  return remarks.filter((remark, i) => remarks.findIndex((each) => saysSame(each, remark)) === i);
}
