import { attemptsAllowed } from "../attempt/attempts-left";
import { type Allowance, hasMoreTime, timeAllowed } from "../attempt/deadline";
import { noticesFor } from "../attempt/notices";
import { offersRibbons } from "../attempt/order";
import type { Window } from "../attempt/window";
import { exact, shown } from "../numbers/exact";
import { revealWords } from "../reveal/reveal";
import { capitalized } from "../text/words";
import { type Instant, MINUTE } from "../time/instants";
import { clockDigits, counted, dayAndTime, lengthInWords } from "../time/words";
import type { Counts, QuizRules, Revealed } from "./rules";

/** A piece of a sentence; what matters most is strong. */
export type Phrase = string | { readonly strong: string };

/** One rule of a quiz, as the brief says it. */
export interface RuleSentence {
  readonly name: string;
  readonly text: readonly Phrase[];
}

const strong = (text: string): Phrase => ({ strong: text });
const NUMBERS = ["none", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten"];
const inWords = (count: number) => NUMBERS[count] ?? String(count);

const COUNTS_WORDS: { readonly [C in Counts]: string } = {
  best: "The best one counts.",
  latest: "The latest one counts.",
  first: "The first one counts.",
  mean: "The mean of all of them counts.",
};

/** What the sentences are made from: the settings themselves, so that they cannot say anything else. */
export interface RuleTerms {
  readonly rules: QuizRules;
  readonly window: Window;
  readonly allowance: Allowance;
  readonly used: number;
  /** By which it is told what is past; absent: nothing is. */
  readonly now?: Instant;
  readonly questions: number;
  readonly drawn: boolean;
  /** Exact, as text. */
  readonly maximum: string;
  readonly zone: string;
  /** What has to be done first, if anything. */
  readonly first?: { readonly title: string; readonly atLeast: number | string | null } | undefined;
  /** Whether a reference sheet lies beside the questions. */
  readonly reference?: boolean;
  /** How many of its questions a person marks. */
  readonly byHand?: number;
  /** How many declarations stand beside the questions. */
  readonly declarations?: number;
  /** How marks are given, each way once. */
  readonly scoring?: readonly string[];
  /** The marks of each question, where the questions are the same for all; exact, as text. */
  readonly marksEach?: readonly string[];
}

function time({ rules, allowance, window, zone }: RuleTerms): Phrase[] {
  const allowed = timeAllowed(rules.timeLimit ?? null, allowance);
  if (allowed === null) {
    return window.closes === null
      ? [strong("No time limit."), " What you write is kept until you hand in."]
      : [
          strong("No time limit."),
          ` At closing, ${dayAndTime(window.closes, zone)}, what you have written is handed in.`,
        ];
  }
  const length = allowed % MINUTE === 0 ? counted(allowed / MINUTE, "minute") : lengthInWords(allowed);
  const forYou = hasMoreTime(allowance);
  const usual = forYou ? `; for others ${counted(rules.timeLimit ?? 0, "minute")}` : "";
  const cuts =
    window.closes === null
      ? ""
      : (rules.closingCutsClock ?? true)
        ? " Closing ends it too, if that comes first."
        : " Whoever starts before closing has all of it.";
  return [
    strong(`${length}${forYou ? " for you" : ""}`),
    `, from the moment you start${usual}. It runs on if you leave, and at the end hands in what you have written.${cuts}`,
  ];
}

function pace({ rules, allowance, questions }: RuleTerms): Phrase[] | null {
  const allowed = timeAllowed(rules.timeLimit ?? null, allowance);
  if (allowed === null || questions < 2) return null;
  return [`About ${lengthInWords(allowed / questions)} for each question.`];
}

function attempts({ rules, allowance, used }: RuleTerms): Phrase[] {
  const usedWords = used === 0 ? "none used yet" : `${inWords(used)} used`;
  const wait = rules.waitBetween
    ? ` Between two of them ${lengthInWords(rules.waitBetween * MINUTE)} must pass.`
    : "";
  const allowed = attemptsAllowed(rules.attempts, allowance);
  if (allowed === null) {
    return [strong("As many attempts as you like"), `, ${usedWords}. ${COUNTS_WORDS[rules.counts]}${wait}`];
  }
  const counts = allowed === 1 ? "" : ` ${COUNTS_WORDS[rules.counts]}`;
  const extra =
    allowance.extraAttempts > 0 ? `, ${inWords(allowance.extraAttempts)} of them extra for you` : "";
  return [
    strong(`${capitalized(inWords(allowed))} ${allowed === 1 ? "attempt" : "attempts"}`),
    `${extra}, ${allowed === 1 && used === 0 ? "not used yet" : usedWords}.${counts}${allowed === 1 ? "" : wait}`,
  ];
}

function dates(terms: RuleTerms): Phrase[] {
  const { opens, due, closes } = terms.allowance;
  const isOwn = opens !== null || due !== null || closes !== null;
  return isOwn ? [...windowWords(terms), " These times are your own."] : windowWords(terms);
}

/** "10 % of the maximum (3.3 marks)": a share is always told with what it is a share of. */
const lateCost = (perDay: number | string, maximum: string): string =>
  `${shown(perDay)} % of the maximum (${counted(Number(shown(exact(maximum).mul(exact(perDay)).div(100))), "mark")})`;

function windowWords({ rules, window, zone, maximum, now }: RuleTerms): Phrase[] {
  const cost =
    rules.lateCostPerDay === undefined
      ? ""
      : ` Each day begun after that costs ${lateCost(rules.lateCostPerDay, maximum)}.`;
  const { due, closes } = window;
  if (due === null && closes === null) return ["No due time and no closing."];
  if (due === null && closes !== null) return ["No due time. Closes ", strong(dayAndTime(closes, zone)), "."];
  const isPast = now !== undefined && due !== null && due < now;
  const dueWords = [isPast ? "Was due " : "Due ", strong(dayAndTime(due ?? 0, zone)), "."];
  if (closes === null) return [...dueWords, ` Work is taken after that too, and marked late.${cost}`];
  if (closes === due) return [...dueWords, " Nothing can be written after that."];
  return [...dueWords, ` Late work is taken until ${dayAndTime(closes, zone)}.${cost}`];
}

function questionsWords({
  questions,
  maximum,
  drawn,
  marksEach = [],
  declarations = 0,
}: RuleTerms): Phrase[] {
  return [
    strong(`${questions}, worth ${shown(maximum)} marks`),
    drawn ? ", drawn for you from a larger number." : ".",
    declarations > 0 ? ` Beside them ${counted(declarations, "declaration")}, without marks.` : "",
    marksEach.length > 1 ? ` Question ${marksWords(marksEach)}.` : "",
  ].filter((phrase) => phrase !== "");
}

function afterwards({ rules, window, zone }: RuleTerms): Phrase[] {
  const { reveal } = rules;
  const says = (name: string, what: Revealed): Phrase[] =>
    reveal[what] === "never"
      ? [`${name} are not shown. `]
      : [`${name} `, strong(revealWords(what, rules, window, zone)), ". "];
  const isOne = JSON.stringify(reveal.right) === JSON.stringify(reveal.worked);
  const answers = isOne
    ? says("Right answers and worked answers", "right")
    : [...says("Right answers", "right"), ...says("Worked answers", "worked")];
  const known: Phrase[] =
    reveal.laterAttemptsKnow && !reveal.onlyAfterLastAttempt && rules.attempts !== 1
      ? ["Later attempts may be made knowing them. "]
      : [];
  const last: Phrase[] = reveal.onlyAfterLastAttempt ? ["Only once no attempt is left to you."] : [];
  const practise = rules.practiseMissed
    ? ["What you missed may then be practised, outside the gradebook."]
    : [];
  return [...says("Your marks", "marks"), ...answers, ...known, ...last, ...practise];
}

function order({ rules }: RuleTerms): Phrase[] {
  const unit = rules.paging === "section" || rules.paging === "all" ? "page" : "question";
  const first =
    rules.order === "free"
      ? [strong("Free."), " You can go back to any question until you hand in."]
      : [strong("One way."), ` A ${unit} is closed once you leave it; the desk says so before.`];
  return [
    ...first,
    rules.answerBeforeMovingOn ? ` A ${unit} has to be answered before the next one opens.` : "",
    rules.tellAtOnce
      ? ` Once left, a question says whether it was right${rules.tellRightAnswer ? ", with the right answer" : ""}, and is closed.`
      : "",
  ].filter((phrase) => phrase !== "");
}

const PAGES: { readonly [P in NonNullable<QuizRules["paging"]>]: string } = {
  question: "One question at a time.",
  section: "A section at a time.",
  all: "All questions on one page.",
};

function checking({ rules }: RuleTerms): Phrase[] {
  const { tries } = rules;
  if (!tries) {
    return rules.tellAtOnce
      ? ["No tries: a question says whether it was right once you have left it."]
      : ["Answers are not checked during the attempt."];
  }
  return [
    strong(counted(tries.most, "try", "tries")),
    ` at each part: you may check an answer, and each wrong try costs ${exact(tries.cost).toFraction()} of that part’s marks. What was right is closed as right; after the last try a part is closed and worth nothing.`,
  ];
}

function tools({ rules, reference }: RuleTerms): Phrase[] {
  const calculator = rules.calculator ?? "none";
  const there = [
    calculator === "none" ? "" : `a ${calculator} calculator`,
    reference ? "a reference sheet" : "",
  ].filter(Boolean);
  const ribbons = offersRibbons(rules)
    ? "A ribbon can be laid at a question, to come back to it."
    : "Questions cannot be marked with a ribbon.";
  const aloud =
    (rules.readAloud ?? true) ? "The browser can read questions aloud." : "Questions are not read aloud.";
  return [
    there.length === 0
      ? "No calculator and no reference sheet."
      : `${capitalized(there.join(" and "))} beside the questions.`,
    ` ${ribbons} ${aloud}`,
  ];
}

/** When the time left is said during the attempt; null without a limit. */
function notices({ rules, allowance }: RuleTerms): Phrase[] | null {
  const allowed = timeAllowed(rules.timeLimit ?? null, allowance);
  if (allowed === null) return null;
  const said = noticesFor(
    allowed,
    rules.notices?.map((minutes) => minutes * MINUTE),
  ).map(clockDigits);
  if (said.length === 0) return ["The time left is shown, and not said."];
  const last = said.at(-1);
  return [
    `You are told once with ${said.length === 1 ? last : `${said.slice(0, -1).join(", ")} and ${last}`} left.`,
  ];
}

function marking({ byHand = 0, questions }: RuleTerms): Phrase[] {
  if (byHand === 0) return ["By rule, as soon as you hand in."];
  if (byHand >= questions) return [strong("By your instructor."), " Until then your mark is not known."];
  return [
    strong(`${capitalized(inWords(byHand))} of the questions by your instructor`),
    ", the others by rule. Until then your mark is known only in part.",
  ];
}

/** Which questions have how many marks: "1 to 4: 2 marks each; 5: 6 marks". @param each "" for a declaration */
function marksWords(each: readonly string[]): string {
  const runs: { first: number; last: number; marks: string }[] = [];
  for (const [i, marks] of each.entries()) {
    const held = runs.at(-1);
    // A declaration has no marks to tell of.
    if (marks === "") continue;
    if (held?.marks === marks && held.last === i) held.last = i + 1;
    else runs.push({ first: i + 1, last: i + 1, marks });
  }
  return runs
    .map(({ first, last, marks }) => {
      const said = counted(Number(shown(marks)), "mark");
      return first === last ? `${first}: ${said}` : `${first} to ${last}: ${said} each`;
    })
    .join("; ");
}

/** "due Fri 27 Nov, 23:59", or "was due": a past moment is never said as one to come. */
const comingOrPast = (at: Instant, now: Instant, coming: string, past: string, zone: string): string =>
  `${at >= now ? coming : past} ${dayAndTime(at, zone)}`;

/** What decides, in one line: "20 min, two attempts, the best counts, due Fri 27 Nov, 23:59, opened Tue 24 Nov, 09:00". */
export function decidingLine(terms: RuleTerms, now: Instant): string {
  const { rules, allowance, window, zone } = terms;
  const allowed = timeAllowed(rules.timeLimit ?? null, allowance);
  const count = attemptsAllowed(rules.attempts, allowance);
  const { opens, due, closes } = window;
  return [
    allowed === null
      ? "no time limit"
      : `${lengthInWords(allowed)}${hasMoreTime(allowance) ? " for you" : ""}`,
    count === null
      ? "as many attempts as you like"
      : `${inWords(count)} ${count === 1 ? "attempt" : "attempts"}`,
    count === 1
      ? ""
      : COUNTS_WORDS[rules.counts].toLowerCase().replace(/\.$/, "").replace("best one", "best"),
    due === null ? "" : comingOrPast(due, now, "due", "was due", zone),
    closes === null || (due !== null && closes === due)
      ? ""
      : comingOrPast(closes, now, due === null ? "closes" : "late until", "closed", zone),
    due === null && closes === null ? "no due time" : "",
    opens === null ? "" : comingOrPast(opens, now, "opens", "opened", zone),
  ]
    .filter(Boolean)
    .join(", ");
}

/** What starting now would cost, where the due time is over; null where it is not. */
export function lateStartWords({ rules, window, maximum }: RuleTerms, now: Instant): string | null {
  if (window.due === null || now <= window.due) return null;
  return rules.lateCostPerDay === undefined || exact(rules.lateCostPerDay).equals(0)
    ? "You would start late. Nothing is lost for it; it is marked as late."
    : `You would start late: ${lateCost(rules.lateCostPerDay, maximum)} is lost for each day begun since it was due.`;
}

/** The rules of a quiz for one student, as plain sentences in always the same order; absent ones are said too. */
export function ruleSentences(terms: RuleTerms): RuleSentence[] {
  const { rules } = terms;
  const paceWords = pace(terms);
  const noticeWords = notices(terms);
  const { first, scoring = [] } = terms;
  return [
    { name: "Time", text: time(terms) },
    ...(paceWords ? [{ name: "Pace", text: paceWords }] : []),
    ...(noticeWords ? [{ name: "Notices", text: noticeWords }] : []),
    { name: "Attempts", text: attempts(terms) },
    { name: "Window", text: dates(terms) },
    { name: "Questions", text: questionsWords(terms) },
    ...(first
      ? [
          {
            name: "First",
            text: [
              "Before this one: ",
              strong(first.title),
              first.atLeast === null ? " handed in." : `, with at least ${shown(first.atLeast)} %.`,
            ],
          },
        ]
      : []),
    { name: "Pages", text: [PAGES[rules.paging ?? "question"]] },
    { name: "Order", text: order(terms) },
    { name: "Checking", text: checking(terms) },
    {
      name: "Leaving",
      text:
        rules.timeLimit === undefined
          ? ["You may leave and come back; every answer is kept. The record of your attempt says when."]
          : [
              "You may leave and come back; every answer is kept, and the clock runs on. The record of your attempt says when.",
            ],
    },
    {
      name: "Hand-in",
      text: rules.takeBack
        ? [strong("Can be taken back"), " before it is due, while your time runs."]
        : [strong("Final."), " What is handed in can no longer be changed."],
    },
    { name: "At the desk", text: tools(terms) },
    {
      name: "Material",
      text: [rules.material ?? "Your instructor has not said what may be used; ask if you are unsure."],
    },
    { name: "Marking", text: marking(terms) },
    ...(scoring.length > 0 ? [{ name: "Scoring", text: [scoring.join(" ")] }] : []),
    {
      name: "Comparing",
      text: rules.alike
        ? [
            strong("Typed answers of 40 words and more are compared"),
            " with those of the others for passages that are alike. What is found is looked at by your instructor; nothing is decided by itself.",
          ]
        : ["Answers are not compared with those of others."],
    },
    { name: "Afterwards", text: afterwards(terms) },
    {
      name: "Counts",
      text: rules.practice
        ? [strong("Practice."), " It stays outside the gradebook."]
        : ["It goes into the gradebook."],
    },
  ];
}

/** The rules in which a difference matters to who took the last quiz: how to work, and what cannot be undone. */
const MATTERS = ["Time", "Attempts", "Order", "Checking", "Hand-in"] as const;

/**
 * The names of the rules in which a quiz is other than the last one that a student took, of those that matter: what to read
 * again. What is otherwise in most of them is not marked at all: then everything is to be read.
 */
export function differingRules(terms: RuleTerms, last: Pick<RuleTerms, "rules" | "reference">): string[] {
  const said = (some: RuleTerms) =>
    new Map(ruleSentences({ ...some, used: 0 }).map(({ name, text }) => [name, JSON.stringify(text)]));
  const before = said({ ...terms, rules: last.rules, reference: last.reference ?? false });
  const now = said(terms);
  return MATTERS.filter((name) => now.get(name) !== before.get(name));
}
