import { attemptsAllowed } from "../attempt/attempts-left";
import { type Allowance, hasMoreTime, timeAllowed } from "../attempt/deadline";
import { noticesFor } from "../attempt/notices";
import type { Window } from "../attempt/window";
import { exact, shown } from "../numbers/exact";
import { revealWords } from "../reveal/reveal";
import { capitalized } from "../text/words";
import { MINUTE } from "../time/instants";
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
  const usedWords = used === 0 ? "none used" : `${inWords(used)} used`;
  const wait = rules.waitBetween
    ? ` Between two of them ${lengthInWords(rules.waitBetween * MINUTE)} must pass.`
    : "";
  const allowed = attemptsAllowed(rules.attempts, allowance);
  if (allowed === null) {
    return [strong("As many as you like"), `, ${usedWords}. ${COUNTS_WORDS[rules.counts]}${wait}`];
  }
  const counts = allowed === 1 ? "" : ` ${COUNTS_WORDS[rules.counts]}`;
  const extra =
    allowance.extraAttempts > 0 ? `, ${inWords(allowance.extraAttempts)} of them extra for you` : "";
  return [
    strong(capitalized(inWords(allowed))),
    `${extra}, ${usedWords}.${counts}${allowed === 1 ? "" : wait}`,
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

function windowWords({ rules, window, zone, maximum }: RuleTerms): Phrase[] {
  const cost =
    rules.lateCostPerDay === undefined
      ? ""
      : ` Each day begun after that costs ${lateCost(rules.lateCostPerDay, maximum)}.`;
  const { due, closes } = window;
  if (due === null && closes === null) return ["No due time and no closing."];
  if (due === null && closes !== null) return ["No due time. Closes ", strong(dayAndTime(closes, zone)), "."];
  const dueWords = [`Due `, strong(dayAndTime(due ?? 0, zone)), "."];
  if (closes === null) return [...dueWords, ` Work is taken after that too, and marked late.${cost}`];
  if (closes === due) return [...dueWords, " Nothing can be written after that."];
  return [...dueWords, ` Late work is taken until ${dayAndTime(closes, zone)}.${cost}`];
}

function questionsWords({ questions, maximum, drawn }: RuleTerms): Phrase[] {
  return [
    strong(`${questions}, worth ${shown(maximum)} marks`),
    drawn ? ", drawn for you from a larger number." : ".",
  ];
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
    rules.tellAtOnce ? " Once left, a question says whether it was right, and is closed." : "",
  ].filter((phrase) => phrase !== "");
}

const PAGES: { readonly [P in NonNullable<QuizRules["paging"]>]: string } = {
  question: "One question at a time.",
  section: "A section at a time.",
  all: "All questions on one page.",
};

function checking({ rules: { tries } }: RuleTerms): Phrase[] {
  if (!tries) return ["Answers are not checked during the attempt."];
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
  const fold =
    (rules.fold ?? true)
      ? "A question’s corner can be folded, to come back to it."
      : "Corners cannot be folded here.";
  const aloud =
    (rules.readAloud ?? true) ? "The browser can read questions aloud." : "Questions are not read aloud.";
  return [
    there.length === 0
      ? "No calculator and no reference sheet."
      : `${capitalized(there.join(" and "))} beside the questions.`,
    ` ${fold} ${aloud}`,
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

/** The rules of a quiz for one student, as plain sentences in always the same order; absent ones are said too. */
export function ruleSentences(terms: RuleTerms): RuleSentence[] {
  const { rules } = terms;
  const paceWords = pace(terms);
  const noticeWords = notices(terms);
  const { first } = terms;
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
    { name: "Afterwards", text: afterwards(terms) },
    {
      name: "Counts",
      text: rules.practice
        ? [strong("Practice."), " It stays outside the gradebook."]
        : ["It goes into the gradebook."],
    },
  ];
}

/** Rules that depend on more than the settings: on the window, on how many questions there are, on what was used. */
const OF_ONE_QUIZ: ReadonlySet<string> = new Set([
  "Pace",
  "Notices",
  "Window",
  "Questions",
  "First",
  "Marking",
]);

/** The names of the rules in which a quiz is other than the last one that a student took: what to read again. */
export function differingRules(terms: RuleTerms, last: Pick<RuleTerms, "rules" | "reference">): string[] {
  const said = (some: RuleTerms) =>
    new Map(ruleSentences({ ...some, used: 0 }).map(({ name, text }) => [name, JSON.stringify(text)]));
  const before = said({ ...terms, rules: last.rules, reference: last.reference ?? false });
  return [...said(terms)]
    .filter(([name, text]) => !OF_ONE_QUIZ.has(name) && before.get(name) !== text)
    .map(([name]) => name);
}
