import { attemptsAllowed } from "../attempt/attempts-left";
import { type Allowance, hasMoreTime, timeAllowed } from "../attempt/deadline";
import { offersRibbons } from "../attempt/order";
import { warningsFor } from "../attempt/time-warnings";
import type { Window } from "../attempt/window";
import { exact, shown } from "../numbers/exact";
import type { Counts, QuizRules, Revealed } from "../quiz/rules";
import { revealWords } from "../reveal/reveal";
import { type Coded, type Said, said, saidTogether } from "../said";
import { type Instant, MINUTE } from "../time/instants";
import { clockDigits, dayAndTime, lengthInWords } from "../time/said-times";
import type { Phrase, RuleSentence } from "./phrases";

const strong = (text: Said): Phrase => ({ strong: text });

const COUNTS_WORDS: { readonly [C in Counts]: Said } = {
  best: said("brief.rule-sentences.the-best-one-counts"),
  latest: said("brief.rule-sentences.the-latest-one-counts"),
  first: said("brief.rule-sentences.the-first-one-counts"),
  mean: said("brief.rule-sentences.the-mean-of-all-of-them"),
};

/** What the sentences are made from: the settings themselves, so that they cannot say anything else. */
export interface RuleTerms {
  readonly rules: QuizRules;
  readonly window: Window;
  readonly allowance: Allowance;
  /** Attempts of who reads it; null: it is said of everyone. */
  readonly used: number | null;
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
  readonly scoring?: readonly Said[];
  /** The marks of each question, where the questions are the same for all; exact, as text. */
  readonly marksEach?: readonly string[];
}

function time({ rules, allowance, window, zone }: RuleTerms): Phrase[] {
  const allowed = timeAllowed(rules.timeLimit ?? null, allowance);
  if (allowed === null) {
    return window.closes === null
      ? [
          strong(said("brief.rule-sentences.no-time-limit")),
          said("brief.rule-sentences.what-you-write-is-kept-until"),
        ]
      : [
          strong(said("brief.rule-sentences.no-time-limit")),
          said("brief.rule-sentences.at-closing-what-you-have-written", {
            closes: dayAndTime(window.closes, zone),
          }),
        ];
  }
  const length =
    allowed % MINUTE === 0
      ? said("brief.rule-sentences.minutes", { count: allowed / MINUTE })
      : lengthInWords(allowed);
  const forYou = hasMoreTime(allowance);
  const usual = forYou
    ? said("brief.rule-sentences.for-others-other", { timeLimit: rules.timeLimit ?? 0 })
    : "";
  const cuts =
    window.closes === null
      ? ""
      : (rules.closingCutsClock ?? true)
        ? said("brief.rule-sentences.closing-ends-it-too-if-that")
        : said("brief.rule-sentences.whoever-starts-before-closing-has-all");
  return [
    strong(forYou ? said("brief.rule-sentences.time-for-you", { time: length }) : length),
    said("brief.rule-sentences.from-the-moment-you-start-it", { usual, cuts }),
  ];
}

function pace({ rules, allowance, questions }: RuleTerms): Phrase[] | null {
  const allowed = timeAllowed(rules.timeLimit ?? null, allowance);
  if (allowed === null || questions < 2) return null;
  return [
    said("brief.rule-sentences.about-for-each-question", { allowed: lengthInWords(allowed / questions) }),
  ];
}

function attempts({ rules, allowance, used }: RuleTerms): Phrase[] {
  const allowed = attemptsAllowed(rules.attempts, allowance);
  const usedWords =
    used === null
      ? []
      : [
          said("brief.rule-sentences.comma"),
          used === 0 && allowed === 1
            ? said("brief.rule-sentences.not-used-yet")
            : said("brief.rule-sentences.used", { used }),
        ];
  const wait = rules.waitBetween
    ? said("brief.rule-sentences.between-two-of-them-must-pass", {
        waitBetween: lengthInWords(rules.waitBetween * MINUTE),
      })
    : "";
  const stop = said("brief.rule-sentences.dot");
  if (allowed === null) {
    const any = strong(said("brief.rule-sentences.as-many-attempts-as-you-like"));
    return [any, ...usedWords, stop, COUNTS_WORDS[rules.counts], wait];
  }
  const { extraAttempts } = allowance;
  const isOnly = allowed === 1;
  return [
    strong(said("brief.rule-sentences.attempts-allowed", { allowed })),
    extraAttempts > 0 ? said("brief.rule-sentences.extra", { extra: extraAttempts }) : "",
    ...usedWords,
    stop,
    ...(isOnly ? [] : [COUNTS_WORDS[rules.counts], wait]),
  ];
}

function dates(terms: RuleTerms): Phrase[] {
  const { opens, due, closes } = terms.allowance;
  const isOwn = opens !== null || due !== null || closes !== null;
  return isOwn
    ? [...windowWords(terms), said("brief.rule-sentences.these-times-are-your-own")]
    : windowWords(terms);
}

/** "10 % of the maximum (3.3 marks)": a share is always told with what it is a share of. */
const lateCost = (perDay: number | string, maximum: string): Said =>
  said("brief.rule-sentences.of-the-maximum-other", {
    perDay: shown(perDay),
    marks: Number(shown(exact(maximum).mul(exact(perDay)).div(100))),
  });

function windowWords({ rules, window, zone, maximum, now }: RuleTerms): Phrase[] {
  const cost =
    rules.lateCostPerDay === undefined
      ? ""
      : said("brief.rule-sentences.each-day-begun-after-that-costs", {
          lateCost: lateCost(rules.lateCostPerDay, maximum),
        });
  const { due, closes } = window;
  if (due === null && closes === null) return [said("brief.rule-sentences.no-due-time-and-no-closing")];
  if (due === null && closes !== null)
    return [
      said("brief.rule-sentences.no-due-time-closes"),
      strong(dayAndTime(closes, zone)),
      said("brief.rule-sentences.dot"),
    ];
  const isPast = now !== undefined && due !== null && due < now;
  const dueWords = [
    isPast ? said("brief.rule-sentences.was-due") : said("brief.rule-sentences.due"),
    strong(dayAndTime(due ?? 0, zone)),
    said("brief.rule-sentences.dot"),
  ];
  if (closes === null)
    return [...dueWords, said("brief.rule-sentences.work-is-taken-after-that-too", { cost })];
  if (closes === due) return [...dueWords, said("brief.rule-sentences.nothing-can-be-written-after-that")];
  return [
    ...dueWords,
    said("brief.rule-sentences.late-work-is-taken-until", { closes: dayAndTime(closes, zone), cost }),
  ];
}

function questionsWords({
  questions,
  maximum,
  drawn,
  marksEach = [],
  declarations = 0,
}: RuleTerms): Phrase[] {
  return [
    strong(said("brief.rule-sentences.worth-marks", { questions, maximum: Number(shown(maximum)) })),
    drawn ? said("brief.rule-sentences.drawn-for-you-from-a-larger") : said("brief.rule-sentences.dot"),
    declarations > 0 ? said("brief.rule-sentences.beside-them-other-without-marks", { declarations }) : "",
    marksEach.length > 1 ? said("brief.rule-sentences.question", { marksWords: marksWords(marksEach) }) : "",
  ].filter((phrase) => phrase !== "");
}

function afterwards({ rules, window, zone }: RuleTerms): Phrase[] {
  const { reveal } = rules;
  const says = (name: Said, what: Revealed): Phrase[] =>
    reveal[what] === "never"
      ? [said("brief.rule-sentences.are-not-shown", { name })]
      : [
          name,
          said("brief.rule-sentences.are-shown"),
          strong(revealWords(what, rules, window, zone)),
          said("brief.rule-sentences.stop"),
        ];
  const isOne = JSON.stringify(reveal.right) === JSON.stringify(reveal.worked);
  const answers = isOne
    ? says(said("brief.rule-sentences.right-answers-and-worked-answers"), "right")
    : [
        ...says(said("brief.rule-sentences.right-answers"), "right"),
        ...says(said("brief.rule-sentences.worked-answers"), "worked"),
      ];
  const known: Phrase[] =
    reveal.laterAttemptsKnow && !reveal.onlyAfterLastAttempt && rules.attempts !== 1
      ? [said("brief.rule-sentences.later-attempts-may-be-made-knowing")]
      : [];
  const last: Phrase[] = reveal.onlyAfterLastAttempt
    ? [said("brief.rule-sentences.only-once-no-attempt-is-left")]
    : [];
  const practise = rules.practiseMissed ? [said("brief.rule-sentences.what-you-missed-may-then-be")] : [];
  return [
    ...says(said("brief.rule-sentences.your-marks"), "marks"),
    ...answers,
    ...known,
    ...last,
    ...practise,
  ];
}

function order({ rules }: RuleTerms): Phrase[] {
  const isByPage = rules.paging === "section" || rules.paging === "all";
  const first =
    rules.order === "free"
      ? [strong(said("brief.rule-sentences.free")), said("brief.rule-sentences.you-can-go-back-to-any")]
      : [
          strong(said("brief.rule-sentences.one-way")),
          said(isByPage ? "brief.rule-sentences.page-closed" : "brief.rule-sentences.question-closed"),
        ];
  const told = rules.tellRightAnswer
    ? said("brief.rule-sentences.told-once-left-with-answer")
    : said("brief.rule-sentences.told-once-left");
  return [
    ...first,
    rules.answerBeforeMovingOn
      ? said(isByPage ? "brief.rule-sentences.page-answered" : "brief.rule-sentences.question-answered")
      : "",
    rules.tellAtOnce ? told : "",
  ].filter((phrase) => phrase !== "");
}

const PAGES: { readonly [P in NonNullable<QuizRules["paging"]>]: Said } = {
  question: said("brief.rule-sentences.one-question-at-a-time"),
  section: said("brief.rule-sentences.a-section-at-a-time"),
  all: said("brief.rule-sentences.all-questions-on-one-page"),
};

function checking({ rules }: RuleTerms): Phrase[] {
  const { tries } = rules;
  if (!tries) {
    return rules.tellAtOnce
      ? [said("brief.rule-sentences.no-tries-a-question-says-whether")]
      : [said("brief.rule-sentences.answers-are-not-checked-during-the")];
  }
  return [
    strong(said("brief.rule-sentences.tries-count", { count: tries.most })),
    said("brief.rule-sentences.at-each-part-you-may-check", { share: exact(tries.cost).toFraction() }),
  ];
}

function tools({ rules, reference }: RuleTerms): Phrase[] {
  const level = rules.calculator ?? "none";
  const calculator =
    level === "none"
      ? null
      : said(
          level === "plain"
            ? "brief.rule-sentences.calculator-plain"
            : "brief.rule-sentences.calculator-scientific",
        );
  const sheet = reference ? said("brief.rule-sentences.a-reference-sheet") : null;
  const tool = calculator ?? (reference ? said("brief.rule-sentences.a-reference-sheet-first") : null);
  return [
    calculator && sheet
      ? said("brief.rule-sentences.tools-both", { calculator, reference: sheet })
      : tool
        ? said("brief.rule-sentences.tool-one", { tool })
        : said("brief.rule-sentences.no-calculator-and-no-reference-sheet"),
    offersRibbons(rules)
      ? said("brief.rule-sentences.a-ribbon-can-be-laid-at")
      : said("brief.rule-sentences.questions-cannot-be-marked-with-a"),
    (rules.readAloud ?? true)
      ? said("brief.rule-sentences.the-browser-can-read-questions-aloud")
      : said("brief.rule-sentences.questions-are-not-read-aloud"),
  ];
}

/** When the time left is said during the attempt; null without a limit. */
function timeWarnings({ rules, allowance }: RuleTerms): Phrase[] | null {
  const allowed = timeAllowed(rules.timeLimit ?? null, allowance);
  if (allowed === null) return null;
  const times = warningsFor(
    allowed,
    rules.timeWarnings?.map((minutes) => minutes * MINUTE),
  ).map(clockDigits);
  if (times.length === 0) return [said("brief.rule-sentences.the-time-left-is-shown-and")];
  return [said("brief.rule-sentences.told-with-left", { times: saidTogether(times, "and") })];
}

function marking({ byHand = 0, questions }: RuleTerms): Phrase[] {
  if (byHand === 0) return [said("brief.rule-sentences.by-rule-as-soon-as-you")];
  if (byHand >= questions)
    return [
      strong(said("brief.rule-sentences.by-your-instructor")),
      said("brief.rule-sentences.until-then-your-mark-is-not"),
    ];
  return [
    strong(said("brief.rule-sentences.by-hand-some", { byHand })),
    said("brief.rule-sentences.the-others-by-rule-until-then"),
  ];
}

/** Which questions have how many marks: "1 to 4: 2 marks each; 5: 6 marks". @param each "" for a declaration */
function marksWords(each: readonly string[]): Said {
  const runs: { first: number; last: number; marks: string }[] = [];
  for (const [i, marks] of each.entries()) {
    const held = runs.at(-1);
    // A declaration has no marks to tell of.
    if (marks === "") continue;
    if (held?.marks === marks && held.last === i) held.last = i + 1;
    else runs.push({ first: i + 1, last: i + 1, marks });
  }
  return saidTogether(
    runs.map(({ first, last, marks: text }) => {
      const marks = Number(shown(text));
      return first === last
        ? said("brief.rule-sentences.marks-of-one", { slot: first, marks })
        : said("brief.rule-sentences.marks-of-several", { first, last, marks });
    }),
    "semicolons",
  );
}

/** A moment as one to come or as one that is past: a past moment is never said as one to come. */
const comingOrPast = (at: Instant, now: Instant, coming: string, past: string, zone: string): Coded =>
  said(`brief.rule-sentences.line.${at >= now ? coming : past}`, { when: dayAndTime(at, zone) });

/** What decides, in one line: "20 min, two attempts, the best counts, due Fri 27 Nov, 23:59, opened Tue 24 Nov, 09:00". */
export function decidingLine(
  terms: Pick<RuleTerms, "allowance" | "window" | "zone"> & {
    readonly rules: Pick<QuizRules, "timeLimit" | "attempts" | "counts">;
  },
  now: Instant,
): Said {
  const { rules, allowance, window, zone } = terms;
  const allowed = timeAllowed(rules.timeLimit ?? null, allowance);
  const count = attemptsAllowed(rules.attempts, allowance);
  const { opens, due, closes } = window;
  const time = allowed === null ? said("brief.rule-sentences.no-time-limit-2") : lengthInWords(allowed);
  return saidTogether(
    [
      allowed !== null && hasMoreTime(allowance)
        ? said("brief.rule-sentences.line.time-for-you", { time })
        : time,
      count === null
        ? said("brief.rule-sentences.as-many-attempts-as-you-like-2")
        : said("brief.rule-sentences.line.attempts", { count }),
      count === 1 ? "" : said(`brief.rule-sentences.line.${rules.counts}`),
      due === null ? "" : comingOrPast(due, now, "due", "was-due", zone),
      closes === null || (due !== null && closes === due)
        ? ""
        : comingOrPast(closes, now, due === null ? "closes" : "late-until", "closed", zone),
      due === null && closes === null ? said("brief.rule-sentences.no-due-time") : "",
      opens === null ? "" : comingOrPast(opens, now, "opens", "opened", zone),
    ],
    "commas",
  );
}

/** What starting now would cost, where the due time is over; null where it is not. */
export function lateStartWords({ rules, window, maximum }: RuleTerms, now: Instant): Said | null {
  if (window.due === null || now <= window.due) return null;
  return rules.lateCostPerDay === undefined || exact(rules.lateCostPerDay).equals(0)
    ? said("brief.rule-sentences.you-would-start-late-nothing-is")
    : said("brief.rule-sentences.you-would-start-late-is-lost", {
        lateCost: lateCost(rules.lateCostPerDay, maximum),
      });
}

/** The rules of a quiz for one student, as plain sentences in always the same order; absent ones are said too. */
export function ruleSentences(terms: RuleTerms): RuleSentence[] {
  const { rules } = terms;
  const paceWords = pace(terms);
  const warningWords = timeWarnings(terms);
  const { first, scoring = [] } = terms;
  return [
    { name: said("brief.rule-sentences.time"), text: time(terms) },
    ...(paceWords ? [{ name: said("brief.rule-sentences.pace"), text: paceWords }] : []),
    ...(warningWords ? [{ name: said("brief.rule-sentences.time-warnings"), text: warningWords }] : []),
    { name: said("brief.rule-sentences.attempts"), text: attempts(terms) },
    { name: said("brief.rule-sentences.window"), text: dates(terms) },
    { name: said("brief.rule-sentences.questions"), text: questionsWords(terms) },
    ...(first
      ? [
          {
            name: said("brief.rule-sentences.first"),
            text: [
              said("brief.rule-sentences.before-this-one"),
              strong(first.title),
              first.atLeast === null
                ? said("brief.rule-sentences.handed-in")
                : said("brief.rule-sentences.with-at-least", { atLeast: shown(first.atLeast) }),
            ],
          },
        ]
      : []),
    { name: said("brief.rule-sentences.pages"), text: [PAGES[rules.paging ?? "question"]] },
    { name: said("brief.rule-sentences.order"), text: order(terms) },
    { name: said("brief.rule-sentences.checking"), text: checking(terms) },
    {
      name: said("brief.rule-sentences.leaving"),
      text:
        rules.timeLimit === undefined
          ? [said("brief.rule-sentences.you-may-leave-and-come-back")]
          : [said("brief.rule-sentences.you-may-leave-and-come-back-2")],
    },
    {
      name: said("brief.rule-sentences.hand-in"),
      text: rules.takeBack
        ? [
            strong(said("brief.rule-sentences.can-be-taken-back")),
            said("brief.rule-sentences.before-it-is-due-while-your"),
          ]
        : [strong(said("brief.rule-sentences.final")), said("brief.rule-sentences.what-is-handed-in-can-no")],
    },
    { name: said("brief.rule-sentences.at-the-desk"), text: tools(terms) },
    {
      name: said("brief.rule-sentences.material"),
      text: [rules.material ?? said("brief.rule-sentences.your-instructor-has-not-said-what")],
    },
    { name: said("brief.rule-sentences.marking"), text: marking(terms) },
    ...(scoring.length > 0
      ? [{ name: said("brief.rule-sentences.scoring"), text: [saidTogether(scoring, "sentences")] }]
      : []),
    {
      name: said("brief.rule-sentences.comparing"),
      text: rules.alike
        ? [
            strong(said("brief.rule-sentences.typed-answers-of-40-words-and")),
            said("brief.rule-sentences.with-those-of-the-others-for"),
          ]
        : [said("brief.rule-sentences.answers-are-not-compared-with-those")],
    },
    { name: said("brief.rule-sentences.afterwards"), text: afterwards(terms) },
    {
      name: said("brief.rule-sentences.counts"),
      text: rules.practice
        ? [
            strong(said("brief.rule-sentences.practice")),
            said("brief.rule-sentences.it-stays-outside-the-gradebook"),
          ]
        : [said("brief.rule-sentences.it-goes-into-the-gradebook")],
    },
  ];
}

/** The rules in which a difference matters to who took the last quiz: how to work, and what cannot be undone. */
const MATTERS = ["time", "attempts", "order", "checking", "hand-in"].map((rule) =>
  said(`brief.rule-sentences.${rule}`),
);

/**
 * The names of the rules in which a quiz is other than the last one that a student took, of those that matter: what to read
 * again. What is otherwise in most of them is not marked at all: then everything is to be read.
 */
export function differingRules(terms: RuleTerms, last: Pick<RuleTerms, "rules" | "reference">): Coded[] {
  const written = (some: RuleTerms) =>
    new Map(
      ruleSentences({ ...some, used: 0 }).map(({ name, text }) => [
        JSON.stringify(name),
        JSON.stringify(text),
      ]),
    );
  const before = written({ ...terms, rules: last.rules, reference: last.reference ?? false });
  const now = written(terms);
  return MATTERS.filter((name) => now.get(JSON.stringify(name)) !== before.get(JSON.stringify(name)));
}
