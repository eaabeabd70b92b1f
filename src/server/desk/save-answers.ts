import { validate as isUuid } from "uuid";
import * as yup from "yup";
import type { RefusedEntry, SaveReceipt } from "@/core/desk/desk-view";
import type { JournalEntry } from "@/core/journal/merge";
import { type Answer, type PresentedQuestion, readAnswer } from "@/core/kinds/answering";
import { type Said, said } from "@/core/said";
import { formulasProblem } from "@/core/text/formulas";
import { GRACE, type Instant, SECOND } from "@/core/time/instants";
import { type EntryToSave, loggedAlready } from "@/data/queries/save";
import { saveStorable } from "@/data/queries/save-storable";
import { isConnectionTrouble } from "@/data/troubles";
import { t } from "@/words/t";
import { dayAndTime } from "@/words/times";
import { viewerOf } from "../access/viewer";
import { openAttempt } from "../attempts/open-attempt";
import { type SavePlan, savePlanOf } from "../attempts/save-plan";
import { settle } from "../attempts/settle";
import { iso, now } from "../base/clock";
import { config } from "../base/config";
import { DESKS_CHANNEL } from "../base/desk-events";
import { mistakeSentence as shapeSentence } from "../base/input";
import { log } from "../base/log";
import { badInput, notFound, notSignedIn, Problem } from "../base/problems";
import { writtenFormulas } from "../text/formulas";
import { cleanEssay } from "../text/rich-text";
import { inThread } from "../text/thread";
import { closedParts } from "./closed-parts";
import { keepLateWriting } from "./late-writing";
import { slotShape } from "./slot-shape";
import { filesProblem } from "./uploads";

/** The most that one save may hold: entries, and options struck through in one of them. */
const MOST_ENTRIES = 200;
const MOST_RULED_OUT = 26;
/** In characters: what is longer is cleaned away from the thread that answers everyone. */
const LONG_ESSAY = 20_000;
const FARTHEST = Date.UTC(2100, 0, 1);

const entryShape = yup
  .object({
    slot: slotShape().required(said("server.desk.save-answers.slot-is-missing")),
    device: yup
      .string()
      .strict()
      .uuid(said("server.desk.save-answers.device-must-be-a-uuid-that"))
      .required(said("server.desk.save-answers.device-is-missing")),
    answer: yup.mixed().nullable().defined(said("server.desk.save-answers.answer-is-missing-null-says-that")),
    ribbon: yup.boolean().strict().required(said("server.desk.save-answers.ribbon-is-missing")),
    ruledOut: yup
      .array()
      .strict()
      .of(yup.string().strict().max(40).required())
      .max(MOST_RULED_OUT)
      .required(said("server.desk.save-answers.ruledout-is-missing")),
    revision: yup
      .number()
      .strict()
      .integer()
      .min(1)
      .max(Number.MAX_SAFE_INTEGER, said("server.desk.save-answers.revision-is-out-of-reach"))
      .required(said("server.desk.save-answers.revision-is-missing")),
    writtenAt: yup
      .number()
      .strict()
      .integer()
      .min(0)
      .max(FARTHEST, said("server.desk.save-answers.writtenat-is-out-of-reach"))
      .required(said("server.desk.save-answers.writtenat-is-missing-milliseconds-since-1970")),
  })
  .strict()
  .noUnknown(({ unknown }) => t("server.desk.save-answers.an-entry-has-fields-that-are", { unknown }));
type SentEntry = yup.InferType<typeof entryShape>;

/** What names an entry, so that it can be refused by itself. */
const entryName = entryShape.pick(["slot", "device", "revision"]).noUnknown(false);

const body = yup
  .object({
    here: slotShape().required(said("server.desk.save-answers.here-is-missing-the-slot-on")),
    entries: yup
      .array(yup.mixed().defined())
      .strict()
      .max(
        MOST_ENTRIES,
        said("server.desk.save-answers.a-save-takes-entries-at-most", { most: MOST_ENTRIES }),
      )
      .required(said("server.desk.save-answers.entries-is-missing-the-changes-to")),
  })
  .strict()
  .noUnknown(({ unknown }) => t("server.desk.save-answers.a-save-has-fields-that-are", { unknown }));

/** What is wrong with the shape of a save, as a sentence. */
function mistakeSentence(error: unknown): string {
  if (!(error instanceof yup.ValidationError)) throw error;
  if (error.type === "typeError" || error.type === "nullable") {
    const what = error.path ? `“${error.path}”` : t("server.desk.save-answers.the-body");
    return t("server.desk.save-answers.is-not-of-the-type-that", { what });
  }
  return shapeSentence(error);
}

/**
 * Only whose attempt it is learns what is wrong with a save; anyone else hears what they would hear anyway. The slots
 * name what must not be sent again; the rest of the save may be.
 */
async function refusedInput(
  token: string,
  attemptId: string,
  sentence: Said,
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
): Promise<{ readonly answer: Answer | null; readonly problem: Said | null }> {
  if (answer !== null && "rich" in answer) {
    const rich =
      answer.rich.length > LONG_ESSAY
        ? await inThread("essay", { rich: answer.rich, attemptId })
        : cleanEssay(answer.rich, attemptId);
    if (rich === null) return { answer, problem: t("server.desk.save-answers.its-text-could-not-be-read") };
    return { answer: { rich }, problem: formulasProblem(writtenFormulas(rich)) };
  }
  if (answer !== null && "files" in answer && question.kind === "upload") {
    return { answer, problem: await filesProblem(attemptId, slot, answer.files) };
  }
  return { answer, problem: null };
}

/** Something about one entry that nobody foresaw: it is refused, told to us, and holds up nothing else. */
function unforeseen(error: unknown, attemptId: string, slot: number): string {
  log.error({ err: error, attemptId, slot }, "an entry could not be taken in");
  return t("server.desk.save-answers.question-could-not-be-taken-as", { slot });
}

/** The entries of a save that have their shape, and those that do not but can be named. @throws yup.ValidationError */
function read(entries: readonly unknown[]): {
  readonly shaped: SentEntry[];
  readonly refused: RefusedEntry[];
} {
  const shaped: SentEntry[] = [];
  const refused: RefusedEntry[] = [];
  for (const entry of entries) {
    try {
      shaped.push(entryShape.validateSync(entry, { strict: true }));
    } catch (error) {
      if (!entryName.isValidSync(entry)) throw error;
      const { slot, device, revision } = entry;
      refused.push({
        slot,
        device: device.toLowerCase(),
        revision,
        type: "bad-input",
        sentence: t("server.desk.save-answers.question", { slot, mistakeSentence: mistakeSentence(error) }),
      });
    }
  }
  return { shaped, refused };
}

/** Why a slot cannot be changed now. */
const shutSentence = (slot: number, page: number, plan: SavePlan): string =>
  (plan.pageOf[slot - 1] ?? 0) > page
    ? t("server.desk.save-answers.question-is-not-open-yet-the", { slot })
    : t("server.desk.save-answers.question-is-closed-and-can-no", { slot });

/** The entries of a save that fit their questions, and those that do not, each with why. */
async function sorted(
  attemptId: string,
  plan: SavePlan,
  entries: readonly SentEntry[],
): Promise<{ readonly good: EntryToSave[]; readonly refused: RefusedEntry[] }> {
  const good: EntryToSave[] = [];
  const refused: RefusedEntry[] = [];
  const closed = plan.hasTries ? await closedParts(attemptId) : null;
  for (const entry of entries) {
    const { slot, revision } = entry;
    const device = entry.device.toLowerCase();
    const refuse = (sentence: string) =>
      refused.push({ slot, device, revision, type: "bad-input", sentence });
    const question = plan.questions[slot - 1];
    if (!question) {
      refuse(t("server.desk.no-such-question", { slot }));
      continue;
    }
    try {
      const reading = readAnswer(question, entry.answer);
      if (!reading.ok) {
        refuse(t("server.desk.save-answers.question-2", { slot, problem: reading.problem }));
        continue;
      }
      const { answer, problem } = await taken(attemptId, slot, question, reading.answer);
      if (problem) {
        refuse(t("server.desk.save-answers.question-2", { slot, problem }));
        continue;
      }
      good.push({
        slot,
        page: plan.pageOf[slot - 1] ?? 0,
        device,
        answer: closed ? closed(slot, answer) : answer,
        ribbon: entry.ribbon,
        ruledOut: entry.ruledOut,
        revision,
        writtenAt: iso(entry.writtenAt),
      });
    } catch (error) {
      if (isConnectionTrouble(error)) throw error;
      refuse(unforeseen(error, attemptId, slot));
    }
  }
  return { good, refused };
}

/** What is over is refused; what was written in time is kept apart as late writing. */
async function refuseOver(
  attemptId: string,
  entries: readonly EntryToSave[],
  over: { readonly handedInAt: string | null; readonly deadline: Instant | null; readonly at: Instant },
): Promise<Problem> {
  const { handedInAt, deadline, at } = over;
  if (handedInAt === null) await settle(attemptId);
  const ended = Math.min(
    handedInAt === null ? Number.POSITIVE_INFINITY : Date.parse(handedInAt),
    deadline ?? Number.POSITIVE_INFINITY,
  );
  const { late, keyIsShown } = await keepLateWriting(attemptId, entries, ended, at);
  const words = keyIsShown
    ? t("server.desk.save-answers.its-right-answers-are-shown-by")
    : late.length > 0
      ? t("server.desk.save-answers.what-was-written-before-that-is")
      : "";
  return new Problem(
    409,
    "handed-in",
    t("server.desk.save-answers.this-attempt-was-handed-in-its", {
      ended: dayAndTime(ended, config.zone),
      words,
    }),
    { late },
  );
}

/**
 * Saves changes to a running attempt. Each is checked against its question first; then everything else is decided in
 * one statement. What cannot be saved is named, with why, and holds up nothing else. Answers only after the commit.
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

  let here: number;
  let sent: ReturnType<typeof read>;
  try {
    const whole = body.validateSync(input, { strict: true });
    here = whole.here;
    sent = read(whole.entries);
  } catch (error) {
    throw await refusedInput(token, attemptId, mistakeSentence(error));
  }
  const all = [...sent.shaped, ...sent.refused];
  const twice = all.find(({ slot }, i) => all.findIndex((each) => each.slot === slot) !== i);
  if (twice) {
    const sentence = t("server.desk.save-answers.question-stands-twice-in-one-save", { slot: twice.slot });
    throw await refusedInput(token, attemptId, sentence);
  }
  const { good: fitting, refused: unfit } = await sorted(attemptId, plan, sent.shaped);
  const refused = [...sent.refused, ...unfit];
  const [first] = refused;
  if (first && fitting.length === 0) {
    const slots = refused.map(({ slot }) => slot);
    throw await refusedInput(token, attemptId, first.sentence, slots);
  }

  const at = now();
  const { outcome, unstorable } = await saveStorable({
    token,
    attemptId,
    here: Math.min(here, plan.questions.length),
    rule: plan.rule,
    entries: fitting,
    now: iso(at),
    graceSeconds: GRACE / SECOND,
    channel: DESKS_CHANNEL,
  });
  for (const { entry, error } of unstorable) {
    const { slot, device, revision } = entry;
    refused.push({ slot, device, revision, type: "bad-input", sentence: unforeseen(error, attemptId, slot) });
  }
  const good = fitting.filter((entry) => !unstorable.some((each) => each.entry === entry));
  if (!outcome.signedIn) throw notSignedIn();
  if (!outcome.attempt) throw notFound();
  const { writable, shut, clashing, page, handedInAt } = outcome.attempt;
  const deadline = outcome.attempt.deadline === null ? null : Date.parse(outcome.attempt.deadline);
  if (!writable) throw await refuseOver(attemptId, good, { handedInAt, deadline, at });
  // Word for word what is stored already is not a change, also where nothing can be changed any more.
  const closed = good.filter(({ slot }) => shut.includes(slot));
  const repeated = await loggedAlready(attemptId, closed);
  for (const entry of good) {
    const { slot, device, revision } = entry;
    if (clashing.includes(slot)) {
      const sentence = t("server.desk.save-answers.question-this-number-was-given-to", { slot });
      refused.push({ slot, device, revision, type: "number-taken", sentence });
    } else if (closed.includes(entry) && !repeated.includes(entry)) {
      refused.push({ slot, device, revision, type: "closed", sentence: shutSentence(slot, page, plan) });
    }
  }
  const isRefused = ({ slot }: EntryToSave) => refused.some((each) => each.slot === slot);
  const saved = good.filter((entry) => !isRefused(entry));
  const [why] = refused;
  if (why && saved.length === 0) {
    const slots = refused.map(({ slot }) => slot);
    throw new Problem(why.type === "bad-input" ? 422 : 409, why.type, why.sentence, { slots, page });
  }
  return {
    serverNow: at,
    deadline,
    handedInAt: null,
    page,
    saved: saved.map(({ slot, device, revision }) => ({ slot, device, revision })),
    refused,
    newer: outcome.held
      .filter((held) => saved.some((sent) => sent.slot === held.slot && sent.device !== held.device))
      .map((held): JournalEntry => ({ ...held, writtenAt: Date.parse(held.writtenAt) })),
  };
}
