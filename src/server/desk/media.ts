import { LRUCache } from "lru-cache";
import sharp from "sharp";
import { presentAttempt } from "@/core/attempt/plan";
import type { PictureView } from "@/core/desk/desk-view";
import { answering, type PresentedQuestion } from "@/core/kinds/answering";
import { fieldsOf } from "@/core/kinds/fields";
import { recordingName } from "@/core/kinds/marking";
import type { Picture, QuizContent } from "@/core/quiz/quiz-file";
import { HOUR, type Instant } from "@/core/time/instants";
import { database } from "@/data/database";
import type { Viewer } from "../access/viewer";
import { progressIn, workOf } from "../attempts/answers";
import { type OpenedAttempt, openAttempt } from "../attempts/open-attempt";
import { type Seeded, seedOf } from "../attempts/seeds";
import { now } from "../base/clock";
import { notFound } from "../base/problems";
import { versionContent } from "../quizzes/versions";
import { writtenIsShown } from "../reveal/revealed";
import { noteSending } from "./clock-start";

const DATA = /^data:((?:image|audio|video)\/[a-z\d+]+);base64,(.+)$/s;

const decoded = ({ data }: Pick<Picture, "data">): { type: string; bytes: Buffer } | null => {
  const [, type, base64] = DATA.exec(data ?? "") ?? [];
  return type && base64 ? { type, bytes: Buffer.from(base64, "base64") } : null;
};

// The content of a version never changes, so neither do the sizes of its pictures.
const sizes = new LRUCache<string, { width: number; height: number }>({ max: 2_000 });

async function sizeOf(versionId: string, picture: Picture): Promise<{ width: number; height: number }> {
  const key = `${versionId} ${picture.id}`;
  const known = sizes.get(key);
  if (known) return known;
  const bytes = decoded(picture)?.bytes;
  const { width = 4, height = 3 } = bytes ? await sharp(bytes).metadata() : {};
  sizes.set(key, { width, height });
  return { width, height };
}

/** The names of the pictures in questions, in the order in which they are seen. */
const picturesIn = (questions: readonly PresentedQuestion[]): string[] =>
  questions.flatMap((question) => fieldsOf(question, answering(question.kind).fields, "picture"));

/**
 * The pictures of questions that are shown, in the order in which they are seen, and by the names that they have in the
 * attempt: neither tells how the author wrote them.
 */
export async function picturesShown(
  row: Seeded & { readonly versionId: string },
  quiz: QuizContent,
  questions: readonly PresentedQuestion[],
): Promise<PictureView[]> {
  const seed = await seedOf(row);
  const byName = new Map((quiz.pictures ?? []).map((picture) => [seed.picture(picture.id), picture]));
  const wanted = [...new Set(picturesIn(questions))];
  const views = wanted.map(async (name): Promise<PictureView[]> => {
    const picture = byName.get(name);
    if (!picture) return [];
    return [{ id: name, alt: picture.alt, ...(await sizeOf(row.versionId, picture)) }];
  });
  return (await Promise.all(views)).flat();
}

/** The questions whose pictures this person may see now: of a running attempt those that are open, then what is shown. */
async function questionsSeen(viewer: Viewer, opened: OpenedAttempt): Promise<PresentedQuestion[]> {
  const { attempt: row } = opened;
  const quiz = await versionContent(row.versionId);
  if (row.handedInAt === null && !opened.isStaff) {
    const noted = await noteSending(opened);
    const { slots } = await progressIn(noted, quiz, await workOf(database(), row.id, quiz));
    return slots.flatMap(({ question }) => (question ? [question] : []));
  }
  return (await writtenIsShown(viewer, opened)) ? presentAttempt(quiz, await seedOf(row)) : [];
}

/** A picture, a sound or a film as it is sent. */
export interface MediumSent {
  readonly type: string;
  readonly bytes: Buffer;
  /** Until when the asking device may keep it; null: it asks again each time. */
  readonly lastsUntil: Instant | null;
}

/**
 * A picture of an attempt, by its name in it, as far as its question may be seen now. While the attempt runs it lasts until
 * the end, because a desk without a network needs it; after that it must be asked for each time.
 */
export async function pictureOf(viewer: Viewer, attemptId: string, pictureId: string): Promise<MediumSent> {
  const opened = await openAttempt(viewer, attemptId, { staff: true });
  const { attempt: row } = opened;
  if (!picturesIn(await questionsSeen(viewer, opened)).includes(pictureId)) throw notFound();
  return sent(await pictureIn(row, pictureId), opened);
}

/** A picture of a quiz by its name in an attempt. */
async function pictureIn(row: OpenedAttempt["attempt"], pictureId: string) {
  const quiz = await versionContent(row.versionId);
  const seed = await seedOf(row);
  return quiz.pictures?.find(({ id }) => seed.picture(id) === pictureId);
}

async function recordingIn(row: OpenedAttempt["attempt"], recordingId: string) {
  const quiz = await versionContent(row.versionId);
  const seed = await seedOf(row);
  return quiz.recordings?.find(({ id }) => recordingName(seed, id) === recordingId);
}

/** A picture, a sound or a film of a handed-in paper, for who was found to be allowed to mark it. @throws Problem "not found" */
export async function mediumOfPaper(
  row: OpenedAttempt["attempt"],
  kind: "pictures" | "recordings",
  name: string,
): Promise<MediumSent> {
  const medium = kind === "pictures" ? await pictureIn(row, name) : await recordingIn(row, name);
  const found = medium && decoded(medium);
  if (!found) throw notFound();
  return { ...found, lastsUntil: null };
}

/** A sound or a film of an attempt, by its name in it, as far as its question may be seen now. */
export async function recordingOf(
  viewer: Viewer,
  attemptId: string,
  recordingId: string,
): Promise<MediumSent> {
  const opened = await openAttempt(viewer, attemptId, { staff: true });
  const seen = await questionsSeen(viewer, opened);
  if (!seen.some(({ recording }) => recording?.id === recordingId)) throw notFound();
  return sent(await recordingIn(opened.attempt, recordingId), opened);
}

function sent(
  medium: Pick<Picture, "data"> | undefined,
  { attempt: row, isStaff }: OpenedAttempt,
): MediumSent {
  const found = medium && decoded(medium);
  if (!found) throw notFound();
  const isRunning = row.handedInAt === null && !isStaff;
  return { ...found, lastsUntil: isRunning ? (row.deadline?.getTime() ?? now() + HOUR) : null };
}
