import { desc, eq } from "drizzle-orm";
import type { HandedInBy } from "@/core/attempt/answered-words";
import { takeBackEnd } from "@/core/attempt/take-back";
import { type MarkTotals, resultWords } from "@/core/marking/mark-words";
import type { Revealed } from "@/core/quiz/rules";
import { NEVER_SHOWN, type Revelation } from "@/core/reveal/reveal";
import { database } from "@/data/database";
import { lateWriting, slip } from "@/data/schema";
import { say, t } from "@/words/t";
import { nearDay } from "@/words/times";
import { windowOf } from "../access/allowances";
import type { Viewer } from "../access/viewer";
import { openAttempt } from "../attempts/open-attempt";
import { instantOf, now } from "../base/clock";
import { config } from "../base/config";
import { notFound } from "../base/problems";
import { decidedLateOf } from "../marking/late-decisions";
import { countingOf } from "../reveal/counting-totals";
import { paperReadable, type QuizOfPerson, quizzesOf } from "../reveal/quizzes-of-person";
import { revealedOf } from "../reveal/revealed";
import { takeBackRuling } from "./take-back";

/** When something is shown: it is there now, it never is, or later, with when. */
export interface WhenShown {
  readonly state: "at-once" | "later" | "never";
  readonly when: string;
}

export interface SlipView {
  readonly attemptId: string;
  readonly institution: string;
  readonly course: { readonly title: string; readonly code: string; readonly slug: string };
  readonly title: string;
  readonly student: string;
  readonly number: number;
  readonly startedAt: number;
  readonly handedInAt: number;
  readonly by: HandedInBy;
  readonly answered: number;
  readonly inPart: number;
  readonly questions: number;
  readonly digests: readonly string[];
  readonly code: string;
  readonly instructor: string;
  /** Earlier hand-ins of the same attempt that were taken back, each with its own code. */
  readonly earlier: readonly { readonly handedInAt: number; readonly code: string }[];
  /** Questions to which a device delivered something only after the end; kept apart for the instructor. */
  readonly lateWriting: readonly LateLine[];
  /** What of it was decided, question by question, and why. */
  readonly lateDecided: readonly {
    readonly slot: number;
    readonly decision: "taken" | "left";
    readonly reason: string;
  }[];
  /** Whether its reader teaches the course: they are told what their student could see when late writing came. */
  readonly forStaff: boolean;
  /** Whether it may be taken back now, and until when. */
  readonly takeBack: { readonly until: number | null } | null;
  /** What came of it, as far as it may be told: large, and a line below it; null while its mark is not shown. */
  readonly result: { readonly large: string; readonly below: string } | null;
  /** Whether something of its marked paper can be read now. */
  readonly hasPaper: boolean;
  /** What follows on this quiz, for its student. */
  readonly next: { readonly quizId: string; readonly title: string; readonly words: string } | null;
  /** When marks and answers are shown, as ends of sentences. */
  readonly marksShown: WhenShown;
  readonly answersShown: WhenShown;
}

/** What came late to one question: when it was written, by the device's word, when it came, and what was shown by then. */
export interface LateLine {
  readonly slot: number;
  readonly writtenAt: number;
  readonly arrivedAt: number;
  /** In words: "your total, what you wrote"; "" where nothing was. */
  readonly shown: string;
}

/** The quiz that this one has to come before, and how it stands now; null: there is none for this person. */
async function followingQuiz(viewer: Viewer, { quiz, course }: QuizOfPerson): Promise<SlipView["next"]> {
  const items = await quizzesOf(viewer, course.id);
  const next = items.find(
    (each) => each.quiz.firstQuizId === quiz.id && each.status.state !== "not-assigned",
  );
  if (!next || next.attempts.length > 0) return null;
  const { opens } = next.window;
  const words =
    next.status.state === "ready"
      ? t("server.handed-in.slip.it-is-open-now")
      : next.status.state === "not-open-yet" && opens !== null
        ? t("server.handed-in.slip.it-opens", { nearDay: nearDay(opens, now(), config.zone) })
        : t("server.handed-in.slip.it-is", { words: next.status.words });
  return { quizId: next.quiz.id, title: next.quiz.title, words };
}

/** When something of a hand-in is shown, in the reader's language. */
function whenShown({ visible, isNever, when }: Revelation = NEVER_SHOWN): WhenShown {
  return { state: visible ? "at-once" : isNever ? "never" : "later", when: say(when) };
}

/** What came of it, in the reader's language. */
function resultOf(
  totals: MarkTotals,
  instructor: string,
): { readonly large: string; readonly below: string } {
  const { large, below } = resultWords(totals, instructor);
  return { large: say(large), below: say(below) };
}

/** The proof of a hand-in, for its student and the course's staff; null while the attempt runs. */
export async function slipOf(viewer: Viewer, attemptId: string): Promise<SlipView | null> {
  const opened = await openAttempt(viewer, attemptId, { staff: true });
  const { attempt, quiz, course, student, instructor } = opened;
  if (attempt.handedInAt === null) return null;
  const [[newest, ...earlier], late] = await Promise.all([
    database().select().from(slip).where(eq(slip.attemptId, attempt.id)).orderBy(desc(slip.number)),
    database()
      .select()
      .from(lateWriting)
      .where(eq(lateWriting.attemptId, attempt.id))
      .orderBy(lateWriting.slot, lateWriting.arrivedAt),
  ]);
  if (!newest) throw notFound();
  const { item, reveal } = await revealedOf(viewer, opened);
  const mayTakeBack = attempt.personId === viewer.id && (await takeBackRuling(opened, database())).may;
  const until = takeBackEnd({
    allowed: quiz.settings.takeBack ?? false,
    handedInBy: attempt.handedInBy,
    due: windowOf(quiz, opened.allowance).due,
    added: attempt.addedMs,
    deadline: instantOf(attempt.deadline),
    returned: attempt.returnedAt !== null,
  });
  const when = (what: Revealed) => whenShown(reveal?.[what]);
  return {
    attemptId: attempt.id,
    institution: config.institution,
    course,
    title: quiz.title,
    student: student.name,
    number: attempt.number,
    startedAt: attempt.startedAt.getTime(),
    handedInAt: newest.handedInAt.getTime(),
    by: newest.handedInBy,
    answered: newest.answered,
    inPart: newest.inPart,
    questions: newest.questions,
    digests: newest.digests,
    code: newest.code,
    earlier: earlier.map(({ handedInAt, code }) => ({ handedInAt: handedInAt.getTime(), code })),
    lateWriting: late
      .filter(({ decision }) => decision === null)
      .map(({ slot, writtenAt, arrivedAt, shown }) => ({
        slot,
        writtenAt: writtenAt.getTime(),
        arrivedAt: arrivedAt.getTime(),
        shown: shown.map((what) => t(`server.handed-in.slip.theirs.${what}`)).join(t("joint.commas")),
      })),
    lateDecided: await decidedLateOf(attempt.id),
    forStaff: opened.isStaff,
    takeBack: mayTakeBack ? { until: until === Number.POSITIVE_INFINITY ? null : until } : null,
    instructor,
    result:
      item && reveal?.total.visible
        ? resultOf({ ...countingOf(item, attempt), maximum: attempt.maximum }, instructor)
        : null,
    hasPaper: item ? paperReadable(item, attempt) : opened.isStaff,
    next: item ? await followingQuiz(viewer, item) : null,
    marksShown: when("total"),
    answersShown: when("right"),
  };
}
