import type { ItemMark } from "@/core/gradebook/item-mark";
import { rangeWords } from "@/core/marking/mark-words";
import { type Exact, exact, shown, ZERO } from "@/core/numbers/exact";
import type { Revelation } from "@/core/reveal/reveal";
import { say, t } from "@/words/t";
import { dayAndTime, dayOnly } from "@/words/times";
import { now } from "../base/clock";
import { config } from "../base/config";
import { COUNTS_WORDS } from "../quizzes/rule-words";
import type { Counting } from "../reveal/counting-attempts";
import { type QuizOfPerson, revelationsOf } from "../reveal/quizzes-of-person";
import type { SetByHand } from "./own-items";

/** "12", "12 + ?", "?": what waits is never shown as a number. */
export const figureOf = (earned: Exact, awaited: Exact): string =>
  awaited.compare(ZERO) > 0 ? `${earned.n === 0n ? "" : `${shown(earned)} + `}?` : shown(earned);

/** Where a quiz is for its student, in the gradebook: "handed in 24 Nov". */
export function stateWords(quiz: QuizOfPerson): string {
  const handedIn = quiz.attempts
    .flatMap((each) => (each.handedInAt ? [each.handedInAt.getTime()] : []))
    .at(-1);
  if (quiz.status.state === "running") return t("server.gradebook.item-words.running-now");
  if (handedIn !== undefined)
    return t("server.gradebook.item-words.handed-in", { dayOnly: dayOnly(handedIn, config.zone) });
  if (quiz.status.state === "not-assigned") return t("server.gradebook.item-words.not-set-for-you");
  if (quiz.window.closes !== null) {
    const day = dayOnly(quiz.window.closes, config.zone);
    return quiz.window.closes <= now()
      ? t("server.gradebook.item-words.closed", { day })
      : t("server.gradebook.item-words.closes", { day });
  }
  return quiz.window.due === null
    ? t("server.gradebook.item-words.no-closing")
    : t("server.gradebook.item-words.due", { day: dayOnly(quiz.window.due, config.zone) });
}

const whenShown = ({ isNever, when }: Revelation): string =>
  isNever
    ? t("server.gradebook.item-words.marks-of-this-work-are-not")
    : t("server.gradebook.item-words.handed-in-marks-are-shown", { when });

/** How a mark comes about, in one sentence: what was set by hand and what the work itself gave, or which attempt counts. */
function whyThisMark(
  { source, reason, computed, earned, awaited }: ItemMark,
  totals: Counting["totals"],
  who: string,
): string {
  const itself = computed
    ? t("server.gradebook.item-words.the-work-itself-gave", {
        part: computed.low.equals(computed.high)
          ? shown(computed.low)
          : t("server.gradebook.item-words.from-to", {
              from: shown(computed.low),
              to: shown(computed.high),
            }),
      })
    : "";
  if (source === "adjusted")
    return t("server.gradebook.item-words.set-by-your-instructor", { reason: reason ?? "", itself });
  if (source === "stands-in") return `${say(reason ?? "")}.${itself}`;
  if (source === "taking-part")
    return t("server.gradebook.item-words.full-marks-for-taking-part", { itself });
  const late = totals[computed?.attempt ?? 0]?.lateWords;
  const lateToo = late ? t("server.gradebook.item-words.it-was-handed-in", { late }) : "";
  if (awaited.compare(ZERO) > 0) {
    return `${say(rangeWords({ earned, awaited }, who) ?? "")}${lateToo}`;
  }
  if (totals.length <= 1) return t("server.gradebook.item-words.your-only-attempt", { lateToo });
  return typeof computed?.attempt === "number"
    ? t("server.gradebook.item-words.attempt-of-counts", {
        attempt: computed.attempt + 1,
        totalsCount: totals.length,
        lateToo,
      })
    : t("server.gradebook.item-words.mean-of-attempts", { totalsCount: totals.length });
}

/** What the sentence about a mark is made from. */
interface WhyTerms {
  readonly mark: ItemMark | "excused" | null;
  readonly totals: Counting["totals"];
  /** Undefined: the work is marked outside Shizuka. */
  readonly quiz: QuizOfPerson | undefined;
  readonly set: SetByHand | undefined;
  readonly isAssigned: boolean;
  /** Its window has closed with nothing handed in. */
  readonly isMissed: boolean;
  readonly missingCountsZero: boolean;
}

/** Why a piece of work has the mark that it has, or none, in one sentence. */
export function whyWords(terms: WhyTerms): string {
  const { mark, totals, quiz, set, isAssigned, isMissed, missingCountsZero } = terms;
  if (mark === "excused") return t("server.gradebook.item-words.excused-2", { reason: set?.reason ?? "" });
  if (mark)
    return whyThisMark(mark, totals, quiz?.instructor ?? t("server.gradebook.item-words.your-instructor"));
  const lastHandIn = quiz?.attempts.findLast((each) => each.handedInAt !== null);
  if (quiz && lastHandIn) return whenShown(revelationsOf(quiz, lastHandIn).total);
  if (quiz?.status.state === "running")
    return t("server.gradebook.item-words.nothing-to-mark-until-you-hand");
  if (!isAssigned) return t("server.gradebook.item-words.not-set-for-you-it-is");
  if (!isMissed) return t("server.gradebook.item-words.nothing-to-mark-yet");
  return missingCountsZero
    ? t("server.gradebook.item-words.nothing-was-handed-in-before-it")
    : t("server.gradebook.item-words.nothing-was-handed-in-it-is");
}

/** Which attempts count: "best counts", "only attempt". */
export const countsWordsOf = (quiz: QuizOfPerson | undefined): string =>
  quiz && quiz.quiz.settings.attempts !== 1
    ? say(COUNTS_WORDS[quiz.quiz.settings.counts])
    : t("server.gradebook.item-words.only-attempt");

/** How a mark came about, step by step: each attempt, what was taken off it, what was set by hand. */
export function makingOf(
  { visible, totals }: Counting,
  quiz: QuizOfPerson | undefined,
  set: SetByHand | undefined,
): string[] {
  const attempts = visible.map((row, i) => {
    const total = totals[i];
    if (!total) return "";
    const before = figureOf(exact(row.earned ?? "0"), exact(row.awaited ?? "0"));
    const after = figureOf(total.earned, total.awaited);
    const of = shown(row.maximum);
    return after === before
      ? t("server.gradebook.item-words.attempt", {
          number: row.number,
          before,
          of,
          part: total.lateWords ? `, ${say(total.lateWords)}` : "",
        })
      : t("server.gradebook.item-words.attempt-2", {
          number: row.number,
          before,
          of,
          lateWords: total.lateWords ?? "",
          after,
        });
  });
  const rule =
    quiz && quiz.quiz.settings.attempts !== 1 && visible.length > 0
      ? [say(COUNTS_WORDS[quiz.quiz.settings.counts])]
      : [];
  const hand = set
    ? [
        t("server.gradebook.item-words.by", {
          part: set.excused
            ? t("server.gradebook.item-words.excused")
            : t("server.gradebook.item-words.set-to", { marks: shown(set.marks ?? "0") }),
          by: set.by,
          at: dayAndTime(set.at, config.zone),
          reason: set.reason,
        }),
      ]
    : [];
  return [
    ...attempts,
    ...rule.map((words) => t("server.gradebook.item-words.of-these-the", { words })),
    ...hand,
  ];
}
