import { validate as isUuid } from "uuid";
import * as yup from "yup";
import type { SaveReceipt } from "@/core/attempt/desk-view";
import type { JournalEntry } from "@/core/journal/merge";
import { type Answer, type PresentedQuestion, readAnswer } from "@/core/kinds/answering";
import { GRACE, SECOND } from "@/core/time/instants";
import { dayAndTime } from "@/core/time/words";
import { type EntryToSave, saveEntries } from "@/data/queries/save";
import { iso, now } from "../clock";
import { config } from "../config";
import { asSentence } from "../input";
import { badInput, notFound, notSignedIn, Problem } from "../problems";
import { type SavePlan, savePlanOf } from "../quiz-versions";
import { cleanEssay } from "../rich-text";
import { viewerOf } from "../viewer";
import { openAttempt } from "./access";
import { keepLateWriting } from "./late-writing";
import { settle } from "./settle";
import { filesProblem } from "./uploads";

/** The most that one save may hold: entries, and options struck through in one of them. */
const MOST_ENTRIES = 200;
const MOST_RULED_OUT = 26;
const FARTHEST = Date.UTC(2100, 0, 1);

const body = yup
  .object({
    here: yup
      .number()
      .strict()
      .integer()
      .min(1)
      .max(1000)
      .required("here is missing: the slot on the screen."),
    entries: yup
      .array()
      .strict()
      .max(MOST_ENTRIES, `A save takes ${MOST_ENTRIES} entries at most.`)
      .required("entries is missing: the changes to save.")
      .of(
        yup
          .object({
            slot: yup.number().strict().integer().min(1).max(1000).required("slot is missing."),
            device: yup
              .string()
              .strict()
              .uuid("device must be a UUID that the device made for itself.")
              .required("device is missing."),
            answer: yup.mixed().nullable().defined("answer is missing; null says that it is empty."),
            folded: yup.boolean().strict().required("folded is missing."),
            ruledOut: yup
              .array()
              .strict()
              .of(yup.string().strict().max(40).required())
              .max(MOST_RULED_OUT)
              .required("ruledOut is missing."),
            revision: yup
              .number()
              .strict()
              .integer()
              .min(1)
              .max(Number.MAX_SAFE_INTEGER, "revision is out of reach.")
              .required("revision is missing."),
            writtenAt: yup
              .number()
              .strict()
              .integer()
              .min(0)
              .max(FARTHEST, "writtenAt is out of reach.")
              .required("writtenAt is missing: milliseconds since 1970, by the server's clock."),
          })
          .strict()
          .noUnknown(({ unknown }) => `An entry has fields that are not known here: ${unknown}.`),
      ),
  })
  .strict()
  .noUnknown(({ unknown }) => `A save has fields that are not known here: ${unknown}.`);

/** What is wrong with the shape of a save, as a sentence. */
function mistakeSentence(error: unknown): string {
  if (!(error instanceof yup.ValidationError)) throw error;
  if (error.type === "typeError" || error.type === "nullable") {
    const what = error.path ? `“${error.path}”` : "The body";
    return `${what} is not of the type that a save needs: an object with here and entries.`;
  }
  return asSentence(error.message);
}

/**
 * Only whose attempt it is learns what is wrong with a save; anyone else hears what they would hear anyway. The slots
 * name what must not be sent again; the rest of the save may be.
 */
async function refusedInput(
  token: string,
  attemptId: string,
  sentence: string,
  slots: readonly number[] = [],
): Promise<Problem> {
  const viewer = await viewerOf(token);
  if (!viewer) return notSignedIn();
  await openAttempt(viewer, attemptId);
  return badInput(sentence, slots.length > 0 ? { slots } : {});
}

/** Answers that need more than their shape to be right: rich text is cleaned, files must be there. */
async function taken(
  attemptId: string,
  slot: number,
  question: PresentedQuestion,
  answer: Answer | null,
): Promise<{ readonly answer: Answer | null; readonly problem: string | null }> {
  if (answer !== null && "rich" in answer) {
    return { answer: { rich: cleanEssay(answer.rich, attemptId) }, problem: null };
  }
  if (answer !== null && "files" in answer && question.kind === "upload") {
    return { answer, problem: await filesProblem(attemptId, slot, answer.files) };
  }
  return { answer, problem: null };
}

/** Why a slot cannot be changed now. */
const shutSentence = (slot: number, page: number, plan: SavePlan): string =>
  (plan.pageOf[slot - 1] ?? 0) > page
    ? `Question ${slot} is not open yet: the questions before it come first.`
    : `Question ${slot} is closed: it was left, and can no longer be changed.`;

/**
 * Saves changes to a running attempt. Each is checked against its question first; then everything else is decided in
 * one statement. Answers only after the commit.
 */
export async function saveAnswers(
  token: string | null,
  attemptId: string,
  input: unknown,
): Promise<SaveReceipt> {
  if (token === null) throw notSignedIn();
  if (!isUuid(attemptId)) throw notFound();
  const plan = await savePlanOf(attemptId);
  if (!plan) throw await refusedInput(token, attemptId, "");
  const { questions } = plan;

  let read: yup.InferType<typeof body>;
  try {
    read = body.validateSync(input, { strict: true });
  } catch (error) {
    throw await refusedInput(token, attemptId, mistakeSentence(error));
  }
  const entries: EntryToSave[] = [];
  const slots = new Set<number>();
  for (const entry of read.entries) {
    const question = questions[entry.slot - 1];
    const refused = (sentence: string) => refusedInput(token, attemptId, sentence, [entry.slot]);
    if (!question) throw await refused(`This attempt has no question ${entry.slot}.`);
    if (slots.has(entry.slot)) {
      throw await refusedInput(
        token,
        attemptId,
        `Question ${entry.slot} stands twice in one save; send the newest.`,
      );
    }
    slots.add(entry.slot);
    const reading = readAnswer(question, entry.answer);
    if (!reading.ok) throw await refused(`Question ${entry.slot}: ${reading.problem}`);
    const { answer, problem } = await taken(attemptId, entry.slot, question, reading.answer);
    if (problem) throw await refused(`Question ${entry.slot}: ${problem}`);
    entries.push({
      slot: entry.slot,
      page: plan.pageOf[entry.slot - 1] ?? 0,
      device: entry.device.toLowerCase(),
      answer,
      folded: entry.folded,
      ruledOut: entry.ruledOut,
      revision: entry.revision,
      writtenAt: iso(entry.writtenAt),
    });
  }

  const at = now();
  const outcome = await saveEntries({
    token,
    attemptId,
    here: Math.min(read.here, questions.length),
    rule: plan.rule,
    entries,
    now: iso(at),
    graceSeconds: GRACE / SECOND,
  });
  if (!outcome.signedIn) throw notSignedIn();
  if (!outcome.attempt) throw notFound();
  const deadline = outcome.attempt.deadline === null ? null : Date.parse(outcome.attempt.deadline);
  if (!outcome.attempt.writable) {
    const { shut, page, handedInAt } = outcome.attempt;
    const isOver = handedInAt !== null || (deadline !== null && at > deadline + GRACE);
    if (!isOver)
      throw new Problem(409, "closed", shutSentence(shut[0] ?? 1, page, plan), { slots: shut, page });
    if (handedInAt === null) await settle(attemptId);
    const ended = Math.min(
      handedInAt === null ? Number.POSITIVE_INFINITY : Date.parse(handedInAt),
      deadline ?? Number.POSITIVE_INFINITY,
    );
    const late = await keepLateWriting(attemptId, entries, ended, at);
    const keptWords =
      late.length > 0
        ? " What was written before that is kept apart as late writing, for your instructor to decide."
        : "";
    throw new Problem(
      409,
      "handed-in",
      `This attempt was handed in ${dayAndTime(ended, config.zone)}; its answers can no longer be changed.${keptWords}`,
      { late },
    );
  }
  return {
    serverNow: at,
    deadline,
    handedInAt: null,
    page: outcome.attempt.page,
    saved: entries.map(({ slot, device, revision }) => ({ slot, device, revision })),
    newer: outcome.held
      .filter((held) => entries.some((sent) => sent.slot === held.slot && sent.device !== held.device))
      .map((held): JournalEntry => ({ ...held, writtenAt: Date.parse(held.writtenAt) })),
  };
}
