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

/** The rules that are the quiz's own; all others are fixed with a version. */
export const SETTINGS = [
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
