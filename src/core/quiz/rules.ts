import * as yup from "yup";
import { exactNumber, exactObject, richText } from "../kinds/shapes";
import { said } from "../said";
import { contradictionsOf } from "./contradictions";

/** When something becomes visible. A date is an ISO instant. */
export type RevealWhen =
  | "at-hand-in"
  | "after-due"
  | "after-closing"
  | "when-returned"
  | "never"
  | { readonly on: string };

/** The things that a marked paper can show. */
export const REVEALED = ["total", "marks", "written", "right", "worked"] as const;
export type Revealed = (typeof REVEALED)[number];

export type RevealRules = { readonly [R in Revealed]: RevealWhen } & {
  readonly onlyAfterLastAttempt?: boolean | undefined;
  /** Right answers may be shown although other attempts follow, which will know them. Said in so many words, or not so. */
  readonly laterAttemptsKnow?: boolean | undefined;
};

/** Which attempt makes the mark. */
export type Counts = "best" | "latest" | "first" | "mean";

/** Checking a single answer during the attempt. */
export interface TryRules {
  /** The most tries at each part. */
  readonly most: number;
  /** The share of the part's marks that each wrong try costs. */
  readonly cost: number | string;
}

/** Where someone can be asked; whichever there are. */
export interface HelpRoutes {
  readonly mail?: string | undefined;
  readonly phone?: string | undefined;
  /** An https address. */
  readonly page?: string | undefined;
}

/**
 * What a quiz's instructor may set anew at any time, beside its window: it belongs to the quiz and holds for all its
 * attempts, whatever version they were written on.
 */
export interface QuizSettings {
  /** Minutes; absent: no limit. */
  readonly timeLimit?: number | undefined;
  /** Absent: unlimited. */
  readonly attempts?: number | undefined;
  readonly counts: Counts;
  /** Whether closing also ends running attempts; yes by default. */
  readonly closingCutsClock?: boolean | undefined;
  /** Lost per started day late, in per cent of the maximum. */
  readonly lateCostPerDay?: number | string | undefined;
  /** Whether a handed-in attempt may be taken back before the due time. */
  readonly takeBack?: boolean | undefined;
  /** Minutes that must pass between a hand-in and the next start. */
  readonly waitBetween?: number | undefined;
  /** Practice stays outside the gradebook. */
  readonly practice?: boolean | undefined;
  /** Whether what was missed may be practised once right answers and worked answers are shown. */
  readonly practiseMissed?: boolean | undefined;
  /** Whether long typed answers are compared with one another for passages that are alike; said in the brief. */
  readonly alike?: boolean | undefined;
  /** Where its instructor can be asked; the mail address of the account by default. */
  readonly help?: HelpRoutes | undefined;
  readonly reveal: RevealRules;
}

/** How an attempt is taken: fixed with the version that it is written on, so that nothing moves under one's hands. */
export interface DeskRules {
  readonly order: "free" | "one-way";
  readonly shuffleQuestions?: boolean | undefined;
  /** Whether a ribbon may be laid at a question, to come back to it; yes by default. */
  readonly ribbon?: boolean | undefined;
  /** Minutes left at which a time warning is shown; the defaults by default. */
  readonly timeWarnings?: readonly number[] | undefined;
  /** A question a page, a section a page, or all on one page; a question a page by default. */
  readonly paging?: "question" | "section" | "all" | undefined;
  /** Whether every question of a page has to be answered before moving on. */
  readonly answerBeforeMovingOn?: boolean | undefined;
  /** Whether a question shows, once left, if it was right; it is closed then. */
  readonly tellAtOnce?: boolean | undefined;
  /** Whether what is told at once holds the right answer, too. */
  readonly tellRightAnswer?: boolean | undefined;
  /** Whether single answers may be checked during the attempt. */
  readonly tries?: TryRules | undefined;
  readonly calculator?: "none" | "plain" | "scientific" | undefined;
  /** Whether the browser's own speech may read questions aloud; yes by default. */
  readonly readAloud?: boolean | undefined;
  /** What may be used, in the instructor's words; plain text. */
  readonly material?: string | undefined;
}

/** The rules of a quiz, as its file holds them. The window is not among them: it belongs to the assignment. */
export type QuizRules = DeskRules & QuizSettings;

const SETTINGS = [
  "timeLimit",
  "attempts",
  "counts",
  "closingCutsClock",
  "lateCostPerDay",
  "takeBack",
  "waitBetween",
  "practice",
  "practiseMissed",
  "alike",
  "help",
  "reveal",
] as const satisfies readonly (keyof QuizSettings)[];

/** The two halves of a quiz's rules: what is the quiz's own, and what is fixed with a version. */
export function splitRules(rules: QuizRules): { readonly settings: QuizSettings; readonly desk: DeskRules } {
  const own = new Set<string>(SETTINGS);
  const half = (wanted: boolean) =>
    Object.fromEntries(Object.entries(rules).filter(([name]) => own.has(name) === wanted));
  return { settings: half(true) as unknown as QuizSettings, desk: half(false) as unknown as DeskRules };
}

const NAMED_MOMENTS = ["at-hand-in", "after-due", "after-closing", "when-returned", "never"];

const revealWhen = () =>
  yup
    .mixed<RevealWhen>()
    .test("when", said("quiz.rules.must-be-one-of-or", { names: NAMED_MOMENTS.join(", ") }), (value) => {
      if (value === undefined) return true;
      if (typeof value === "string") return NAMED_MOMENTS.includes(value);
      return typeof value?.on === "string" && !Number.isNaN(Date.parse(value.on));
    })
    .required();

const settingFields = {
  timeLimit: yup
    .number()
    .strict()
    .moreThan(0, said("quiz.rules.must-be-more-than-0-minutes"))
    .max(10_080, said("quiz.rules.must-be-a-week-at-most")),
  attempts: yup.number().strict().integer().min(1).max(1000),
  counts: yup.string().strict().oneOf(["best", "latest", "first", "mean"]).required(),
  closingCutsClock: yup.boolean().strict(),
  lateCostPerDay: exactNumber(0, 100),
  takeBack: yup.boolean().strict(),
  waitBetween: yup.number().strict().min(0).max(525_600),
  practice: yup.boolean().strict(),
  practiseMissed: yup.boolean().strict(),
  alike: yup.boolean().strict(),
  help: exactObject({
    mail: yup.string().strict().email().max(200),
    phone: yup
      .string()
      .strict()
      .matches(/^[+\d][\d ()/-]{2,30}$/, { message: said("quiz.rules.must-be-a-telephone-number") }),
    page: yup
      .string()
      .strict()
      .matches(/^https:\/\/[^\s"<>]+$/, { message: said("quiz.rules.must-be-an-address-that-begins") })
      .max(300),
  })
    .default(undefined)
    .optional(),
  reveal: exactObject({
    total: revealWhen(),
    marks: revealWhen(),
    written: revealWhen(),
    right: revealWhen(),
    worked: revealWhen(),
    onlyAfterLastAttempt: yup.boolean().strict(),
    laterAttemptsKnow: yup.boolean().strict(),
  }).required(said("quiz.rules.is-missing-what-is-shown-and")),
};

/** Settings that contradict each other are refused, whatever the window is. */
const withoutContradictions = <S extends yup.AnyObjectSchema>(shape: S): S =>
  shape.test("contradictions", function (rules: QuizSettings) {
    if (rules?.reveal === undefined) return true;
    const [first] = contradictionsOf(rules);
    return first === undefined || this.createError({ message: first });
  });

/** The settings of a quiz by themselves. */
export const settingsShape = withoutContradictions(exactObject(settingFields));

export const rulesShape = withoutContradictions(
  exactObject({
    ...settingFields,
    order: yup.string().strict().oneOf(["free", "one-way"]).required(),
    shuffleQuestions: yup.boolean().strict(),
    ribbon: yup.boolean().strict(),
    timeWarnings: yup.array().of(yup.number().strict().moreThan(0).required()).max(10),
    paging: yup.string().strict().oneOf(["question", "section", "all"]),
    answerBeforeMovingOn: yup.boolean().strict(),
    tellAtOnce: yup.boolean().strict(),
    tellRightAnswer: yup.boolean().strict(),
    tries: exactObject({
      most: yup
        .number()
        .strict()
        .integer()
        .min(1)
        .max(100)
        .required(said("quiz.rules.is-missing-the-most-tries-at")),
      cost: exactNumber(0, 1).required(said("quiz.rules.is-missing-what-a-wrong-try")),
    })
      .default(undefined)
      .optional(),
    calculator: yup.string().strict().oneOf(["none", "plain", "scientific"]),
    readAloud: yup.boolean().strict(),
    material: richText(),
  }),
);
