import { randomBytes } from "node:crypto";
import { desc, eq } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import * as yup from "yup";
import { planAttempt, type Slot } from "@/core/attempt/plan";
import type { PracticeQuestion, PracticeTold, PracticeView } from "@/core/desk/practice-view";
import { readAnswer } from "@/core/kinds/answering";
import type { MarkedQuestion } from "@/core/kinds/kind";
import { filledIn, markQuestion, present } from "@/core/kinds/marking";
import type { AttemptSeed } from "@/core/numbers/seeded";
import { toldOf } from "@/core/reveal/told";
import { said } from "@/core/said";
import { database } from "@/data/database";
import { practiceAnswer, practiceRun } from "@/data/schema";
import { say, t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { currentMarks } from "../attempts/marks";
import { openAttempt } from "../attempts/open-attempt";
import { currentNaming, seedOf } from "../attempts/seeds";
import { spend } from "../base/budgets";
import { now } from "../base/clock";
import { contentLanguage } from "../base/content-language";
import { inputOf } from "../base/input";
import { badInput, notFound, Problem } from "../base/problems";
import { picturesShown } from "../desk/media";
import { mayPractise, practisable } from "../handed-in/practisable-questions";
import { versionContent } from "../quizzes/versions";
import { revealedOf } from "../reveal/revealed";
import { drawnPractice, drawnPracticeTold } from "../text/formulas";

const notAllowed = () =>
  new Problem(409, "no-practice", t("server.practice.practise.what-was-missed-here-cannot-be"));

/** The own attempt whose missed questions may be practised now. */
async function opened(viewer: Viewer, attemptId: string) {
  const found = await openAttempt(viewer, attemptId);
  const content = await versionContent(found.attempt.versionId);
  const { reveal } = await revealedOf(viewer, found);
  if (found.attempt.handedInAt === null || !reveal || !mayPractise(found.quiz.settings, reveal))
    throw notAllowed();
  return { ...found, content };
}

/** Begins to practise what was missed in an attempt, with values of its own; a run that is not finished goes on. */
export async function startPractice(viewer: Viewer, attemptId: string): Promise<string> {
  await spend("practice", viewer.id);
  const { attempt: row, content } = await opened(viewer, attemptId);
  const marks = await currentMarks(database(), row.id);
  const missed = practisable(
    content,
    await seedOf(row),
    new Map(marks.map(({ slot, detail }) => [slot, detail])),
  );
  if (missed.length === 0) throw notAllowed();
  const [last] = await database()
    .select()
    .from(practiceRun)
    .where(eq(practiceRun.attemptId, row.id))
    .orderBy(desc(practiceRun.id))
    .limit(1);
  if (last) {
    const done = await database()
      .select({ slot: practiceAnswer.slot })
      .from(practiceAnswer)
      .where(eq(practiceAnswer.runId, last.id));
    if (done.length < last.slots.length) return last.id;
  }
  const [run] = await database()
    .insert(practiceRun)
    .values({
      attemptId: row.id,
      seed: randomBytes(16).toString("hex"),
      naming: await currentNaming(),
      slots: missed.map(({ slot }) => slot),
    })
    .returning({ id: practiceRun.id });
  return run?.id ?? "";
}

async function runOf(viewer: Viewer, runId: string) {
  if (!isUuid(runId)) throw notFound();
  const [run] = await database().select().from(practiceRun).where(eq(practiceRun.id, runId));
  if (!run) throw notFound();
  const found = await opened(viewer, run.attemptId);
  const plan = planAttempt(found.content, await seedOf(found.attempt));
  const slots = plan.filter(({ slot }) => run.slots.includes(slot));
  // Values and names are the run's own; pictures are served as those of the attempt.
  const seed = { ...(await seedOf(run)), picture: (await seedOf(found.attempt)).picture };
  return { ...found, run, slots, seed };
}

function toldOfPractice({ question }: Slot, seed: AttemptSeed, marked: MarkedQuestion): PracticeTold {
  return drawnPracticeTold({
    ...toldOf(marked),
    right: marked.parts.map(({ label, right }) =>
      label === null ? say(right) : `${say(label)}: ${say(right)}`,
    ),
    worked: question.worked === undefined ? null : filledIn(question, seed, question.worked),
  });
}

/** A practice run as its student sees it. */
export async function practiceOf(viewer: Viewer, runId: string): Promise<PracticeView> {
  const { attempt: row, quiz, course, content, run, slots, seed } = await runOf(viewer, runId);
  const done = await database().select().from(practiceAnswer).where(eq(practiceAnswer.runId, run.id));
  const questions = slots.map((slot): PracticeQuestion => {
    const presented = present(slot.question, seed);
    const earlier = done.find((each) => each.slot === slot.slot);
    const reading = readAnswer(presented, earlier?.answer ?? null);
    return drawnPractice({
      slot: slot.slot,
      presented,
      answer: reading.ok ? reading.answer : null,
      told: earlier ? toldOfPractice(slot, seed, earlier.detail) : null,
    });
  });
  return {
    runId: run.id,
    attemptId: row.id,
    title: quiz.title,
    language: contentLanguage(content),
    course,
    questions,
    pictures: await picturesShown(
      row,
      content,
      questions.map(({ presented }) => presented),
    ),
  };
}

const body = yup
  .object({
    slot: yup
      .number()
      .strict()
      .integer()
      .required(said("server.practice.practise.slot-is-missing-the-question-that")),
    answer: yup.mixed().nullable().defined(said("server.practice.practise.answer-is-missing-null-is-an")),
  })
  .strict()
  .noUnknown();

/** Marks a question of a practice run at once. It can be done once in a run: then its answer is known. */
export async function markPractice(viewer: Viewer, runId: string, input: unknown): Promise<PracticeTold> {
  const { slot: wanted, answer: raw } = inputOf(body, input);
  const { run, slots, seed } = await runOf(viewer, runId);
  const slot = slots.find((each) => each.slot === wanted);
  if (!slot) throw badInput(t("server.practice.practise.this-run-has-no-question", { wanted }));
  const reading = readAnswer(present(slot.question, seed), raw);
  if (!reading.ok) throw badInput(reading.problem);
  if (reading.answer === null) throw badInput(t("server.practice.practise.nothing-is-written-yet-there-is"));
  const detail = markQuestion(slot.question, seed, reading.answer);
  const [kept] = await database()
    .insert(practiceAnswer)
    .values({ runId: run.id, slot: slot.slot, answer: reading.answer, detail, markedAt: new Date(now()) })
    .onConflictDoNothing()
    .returning({ slot: practiceAnswer.slot });
  if (!kept) {
    throw new Problem(
      409,
      "marked-already",
      t("server.practice.practise.this-question-is-marked-already-begin"),
    );
  }
  return toldOfPractice(slot, seed, detail);
}
