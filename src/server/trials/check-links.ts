import { createHash, randomBytes } from "node:crypto";
import { and, asc, eq, gt, isNull } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import * as yup from "yup";
import { exactObject } from "@/core/kinds/shapes";
import { said } from "@/core/said";
import { DAY, HOUR, type Instant } from "@/core/time/instants";
import { database, inTransaction } from "@/data/database";
import { checkLink, course, draft, person, trial } from "@/data/schema";
import { newId } from "@/data/schema/columns";
import type { Viewer } from "../access/viewer";
import { now } from "../base/clock";
import { hasWords, inputOf } from "../base/input";
import { notFound } from "../base/problems";
import { note } from "../base/record";
import { openDraft } from "../drafts/open-draft";
import { type BegunTrial, removeTrials, trialTermsIn, writeTrial } from "./begin-trial";

/** A link as who writes the quiz sees it; its address is told once, when it is made. */
export interface CheckLinkLine {
  readonly id: string;
  readonly forWhom: string;
  readonly by: string;
  readonly endsAt: Instant;
}

const hashOf = (secret: string): string => createHash("sha256").update(secret).digest("hex");

const body = exactObject({
  forWhom: yup
    .string()
    .strict()
    .test("words", said("server.trials.check-links.say-for-whom"), hasWords)
    .max(200)
    .required(said("server.trials.check-links.say-for-whom")),
  days: yup.number().strict().integer().min(1).max(30).required(),
});

/** Makes an address by which a colleague may check a quiz, and nothing else. */
export async function makeCheckLink(
  viewer: Viewer,
  draftId: string,
  input: unknown,
): Promise<{ readonly path: string }> {
  const { forWhom, days } = inputOf(body, input);
  const opened = await openDraft(viewer, draftId);
  const secret = randomBytes(32).toString("base64url");
  await inTransaction(async (tx) => {
    await tx.insert(checkLink).values({
      id: newId(),
      draftId: opened.draft.id,
      secretHash: hashOf(secret),
      forWhom: forWhom.trim(),
      createdBy: viewer.id,
      endsAt: new Date(now() + days * DAY),
    });
    await note(tx, {
      actorId: viewer.id,
      action: "gave a link to check a draft",
      subject: "course",
      subjectId: opened.course.id,
      details: { draft: opened.draft.id, forWhom: forWhom.trim(), days },
    });
  });
  return { path: `/check/${secret}` };
}

/** The links to a draft that have not ended. */
export async function checkLinksOf(viewer: Viewer, draftId: string): Promise<CheckLinkLine[]> {
  const opened = await openDraft(viewer, draftId);
  const rows = await database()
    .select({ id: checkLink.id, forWhom: checkLink.forWhom, by: person.name, endsAt: checkLink.endsAt })
    .from(checkLink)
    .innerJoin(person, eq(person.id, checkLink.createdBy))
    .where(and(eq(checkLink.draftId, opened.draft.id), gt(checkLink.endsAt, new Date(now()))))
    .orderBy(asc(checkLink.endsAt));
  return rows.map((row) => ({ ...row, endsAt: row.endsAt.getTime() }));
}

const ending = exactObject({
  id: yup
    .string()
    .strict()
    .test("uuid", (id) => isUuid(id ?? ""))
    .required(),
});

/** Ends a link, and what is being tried out by it. */
export async function endCheckLink(viewer: Viewer, draftId: string, input: unknown): Promise<void> {
  const { id } = inputOf(ending, input);
  const opened = await openDraft(viewer, draftId);
  await inTransaction(async (tx) => {
    const [link] = await tx
      .update(checkLink)
      .set({ endsAt: new Date(now()) })
      .where(and(eq(checkLink.id, id), eq(checkLink.draftId, opened.draft.id)))
      .returning({ id: checkLink.id });
    if (!link) throw notFound();
    const trials = await tx.select({ id: trial.id }).from(trial).where(eq(trial.linkId, link.id));
    await removeTrials(
      tx,
      trials.map((each) => each.id),
    );
  });
}

/** The quiz that a link leads to, while it holds. @throws Problem "not found" */
async function linkIn(secret: string) {
  const [row] = await database()
    .select({ link: checkLink, draft, course })
    .from(checkLink)
    .innerJoin(draft, eq(draft.id, checkLink.draftId))
    .innerJoin(course, eq(course.id, draft.courseId))
    .where(
      and(
        eq(checkLink.secretHash, hashOf(secret)),
        gt(checkLink.endsAt, new Date(now())),
        isNull(draft.removedAt),
      ),
    );
  if (!row) throw notFound();
  return row;
}

/** What a colleague reads who follows a link. */
export async function checkedQuiz(secret: string): Promise<{
  readonly title: string;
  readonly course: string;
  readonly forWhom: string;
  readonly endsAt: Instant;
}> {
  const { link, draft: row, course: of } = await linkIn(secret);
  return { title: row.title, course: of.title, forWhom: link.forWhom, endsAt: link.endsAt.getTime() };
}

/** As many trials of one link at once: a link that is passed on fills nothing. */
const MOST_TRIALS = 5;
const LASTS = 6 * HOUR;

/** Tries a quiz out by a link. */
export async function beginCheck(secret: string, input: unknown): Promise<BegunTrial> {
  const terms = trialTermsIn(input);
  const { link, draft: row, course: of } = await linkIn(secret);
  return inTransaction(async (tx) => {
    const [held] = await tx.select().from(checkLink).where(eq(checkLink.id, link.id)).for("update");
    if (!held || held.endsAt.getTime() <= now()) throw notFound();
    const before = await tx
      .select({ id: trial.id })
      .from(trial)
      .where(eq(trial.linkId, link.id))
      .orderBy(asc(trial.createdAt));
    await removeTrials(
      tx,
      before.slice(0, Math.max(0, before.length - MOST_TRIALS + 1)).map(({ id }) => id),
    );
    const endsAt = Math.min(held.endsAt.getTime(), now() + LASTS);
    return writeTrial(tx, { draft: row, course: of }, terms, { byId: null, linkId: link.id, endsAt });
  });
}
