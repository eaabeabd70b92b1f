import { correlation, deviation, mean, variance } from "./statistics";

/** Fewer attempts than this say nothing of how a question separates. */
export const LEAST_ATTEMPTS = 10;
const NEARLY_ALL = 0.9;
const NEARLY_NONE = 0.2;

/** A question as it is counted. */
export interface FiguredQuestion {
  readonly id: string;
  /** What it is worth, in marks. */
  readonly maximum: number;
  /** The section that it stands in. */
  readonly section: string;
}

/** The marks of one attempt, in the order of the questions; null: it did not have the question, or it does not count there. */
export type FiguredAttempt = readonly (number | null)[];

/** What stands out in a question. */
export type Remarkable = "nearly-all-right" | "nearly-all-wrong" | "misled";

/** How one question behaved. */
export interface QuestionFigures {
  readonly id: string;
  /** How many attempts had it. */
  readonly attempts: number;
  /** The mean share of its marks, 0 to 1; null: no attempt had it. */
  readonly facility: number | null;
  /** The standard deviation of its marks. */
  readonly deviation: number | null;
  /** Correlation of its marks with the rest of the total, -1 to 1; null: too few had it, or one of them does not vary. */
  readonly discrimination: number | null;
  readonly noDiscrimination: "too-few" | "same-marks" | "same-rest" | null;
  readonly remarkable: readonly Remarkable[];
}

/** How far the questions of a whole quiz, or of one section, measure the same. */
export interface Reliability {
  /** The section's name; null: the whole quiz. */
  readonly section: string | null;
  readonly questions: number;
  /** Cronbach's alpha. */
  readonly alpha: number;
  /** Standard error of measurement of the total, in marks. */
  readonly error: number;
}

export interface QuizFigures {
  readonly attempts: number;
  /** The mean total in marks, and its standard deviation; null: nothing to say. */
  readonly mean: number | null;
  readonly deviation: number | null;
  /** Of the whole quiz if all had the same questions; else of the sections in which all had; else empty. */
  readonly reliability: readonly Reliability[];
  readonly noReliability: "too-few" | "different-questions" | "one-question" | "same-totals" | null;
  readonly questions: readonly QuestionFigures[];
}

const sum = (row: FiguredAttempt): number => row.reduce<number>((total, marks) => total + (marks ?? 0), 0);

/**
 * Cronbach's alpha, k / (k - 1) * (1 - sum of the questions' variances / variance of the total), and sd * sqrt(1 - alpha).
 * Null where there is no variance, or only one question.
 */
function alphaOf(rows: readonly (readonly number[])[]): { alpha: number; error: number } | null {
  const k = rows[0]?.length ?? 0;
  const total = variance(rows.map(sum));
  if (k < 2 || total === null || total === 0) return null;
  const own = Array.from({ length: k }, (_, i) => variance(rows.map((row) => row[i] ?? 0)) ?? 0);
  const alpha = (k / (k - 1)) * (1 - own.reduce((a, b) => a + b, 0) / total);
  return { alpha, error: Math.sqrt(total) * Math.sqrt(Math.max(0, 1 - alpha)) };
}

/** The marks of some questions, if all attempts had all of them. */
function whole(attempts: readonly FiguredAttempt[], places: readonly number[]): number[][] | null {
  const rows: number[][] = [];
  for (const row of attempts) {
    const own = places.map((i) => row[i] ?? null);
    if (own.includes(null)) return null;
    rows.push(own as number[]);
  }
  return rows;
}

function reliabilityOf(
  questions: readonly FiguredQuestion[],
  attempts: readonly FiguredAttempt[],
  least: number,
): Pick<QuizFigures, "reliability" | "noReliability"> {
  const none = (noReliability: QuizFigures["noReliability"]) => ({ reliability: [], noReliability });
  if (attempts.length < least) return none("too-few");
  const counting = questions.flatMap(({ maximum }, i) => (maximum > 0 ? [i] : []));
  const of = (section: string | null, places: readonly number[]): Reliability[] => {
    const rows = whole(attempts, places);
    const found = rows && alphaOf(rows);
    return found ? [{ section, questions: places.length, ...found }] : [];
  };
  if (counting.length < 2) return none("one-question");
  if (whole(attempts, counting)) {
    const reliability = of(null, counting);
    return { reliability, noReliability: reliability.length > 0 ? null : "same-totals" };
  }
  const sections = [...new Set(questions.map(({ section }) => section))];
  const reliability = sections.flatMap((section) =>
    of(
      section,
      counting.filter((i) => questions[i]?.section === section),
    ),
  );
  return { reliability, noReliability: reliability.length > 0 ? null : "different-questions" };
}

function remarkableOf(figures: Omit<QuestionFigures, "remarkable">): Remarkable[] {
  const { facility, discrimination } = figures;
  return [
    ...(facility !== null && facility > NEARLY_ALL ? (["nearly-all-right"] as const) : []),
    ...(facility !== null && facility < NEARLY_NONE ? (["nearly-all-wrong"] as const) : []),
    ...(discrimination !== null && discrimination < 0 ? (["misled"] as const) : []),
  ];
}

/**
 * What an attempt reached in all questions but one, as a share of what it could have: attempts that had other questions can be
 * compared so. Null: it had no other.
 */
function restShare(questions: readonly FiguredQuestion[], row: FiguredAttempt, but: number): number | null {
  let [earned, maximum] = [0, 0];
  for (const [i, marks] of row.entries()) {
    if (i === but || marks === null) continue;
    earned += marks;
    maximum += questions[i]?.maximum ?? 0;
  }
  return maximum > 0 ? earned / maximum : null;
}

function figuresOf(
  questions: readonly FiguredQuestion[],
  attempts: readonly FiguredAttempt[],
  at: number,
  least: number,
): QuestionFigures {
  const { id = "", maximum = 0 } = questions[at] ?? {};
  const own: number[] = [];
  const pairs: [number, number][] = [];
  for (const row of attempts) {
    const marks = row[at] ?? null;
    if (marks === null) continue;
    own.push(marks);
    const rest = restShare(questions, row, at);
    if (rest !== null) pairs.push([marks, rest]);
  }
  const isFew = pairs.length < least;
  const discrimination = isFew ? null : correlation(pairs);
  const varies = (variance(own) ?? 0) > 0;
  const figures = {
    id,
    attempts: own.length,
    facility: own.length > 0 && maximum > 0 ? mean(own) / maximum : null,
    deviation: deviation(own),
    discrimination,
    noDiscrimination:
      discrimination !== null
        ? null
        : isFew
          ? ("too-few" as const)
          : varies
            ? ("same-rest" as const)
            : ("same-marks" as const),
  };
  return { ...figures, remarkable: remarkableOf(figures) };
}

/**
 * How the questions of a quiz behaved, over some attempts (rules: standard deviations are of samples). Discrimination is Pearson's
 * correlation of a question's marks with the rest of the total.
 * @param least how many attempts are needed for discrimination and reliability
 */
export function quizFigures(
  questions: readonly FiguredQuestion[],
  attempts: readonly FiguredAttempt[],
  least: number = LEAST_ATTEMPTS,
): QuizFigures {
  const totals = attempts.map(sum);
  return {
    attempts: attempts.length,
    mean: totals.length > 0 ? mean(totals) : null,
    deviation: deviation(totals),
    ...reliabilityOf(questions, attempts, least),
    questions: questions.map((_, i) => figuresOf(questions, attempts, i, least)),
  };
}
