import { LRUCache } from "lru-cache";
import sharp from "sharp";
import type { PictureView } from "@/core/attempt/desk-view";
import type { Picture, QuizFile } from "@/core/quiz/quiz-file";
import { database } from "@/data/database";
import { notFound } from "../problems";
import { versionContent } from "../quiz-versions";
import type { Viewer } from "../viewer";
import { openAttempt } from "./access";
import { writtenIsShown } from "./revealed";
import { standingIn, workOf } from "./work";

const DATA = /^data:(image\/[a-z+]+);base64,(.+)$/s;

const decoded = (picture: Picture): { type: string; bytes: Buffer } | null => {
  const [, type, base64] = DATA.exec(picture.data ?? "") ?? [];
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

/** The ids of the pictures in anything. */
function picturesIn(value: unknown): string[] {
  if (Array.isArray(value)) return value.flatMap(picturesIn);
  if (typeof value !== "object" || value === null) return [];
  return Object.entries(value).flatMap(([field, each]) =>
    field === "picture" && typeof each === "string" ? [each] : picturesIn(each),
  );
}

/** The pictures in anything that is shown: a standing at the desk, the questions of a marked paper. */
export function picturesShown(versionId: string, quiz: QuizFile, shown: unknown): Promise<PictureView[]> {
  const wanted = new Set(picturesIn(shown));
  const there = (quiz.pictures ?? []).filter(({ id }) => wanted.has(id));
  return Promise.all(
    there.map(async (picture) => ({
      id: picture.id,
      alt: picture.alt,
      ...(await sizeOf(versionId, picture)),
    })),
  );
}

/**
 * A picture of an attempt's quiz: for its student those of questions that are open, and, once it is handed in, those of
 * questions that are shown; for staff all of them.
 */
export async function pictureOf(
  viewer: Viewer,
  attemptId: string,
  pictureId: string,
): Promise<{ type: string; bytes: Buffer }> {
  const opened = await openAttempt(viewer, attemptId, { staff: true });
  const { attempt: row } = opened;
  const quiz = await versionContent(row.versionId);
  if (!(await writtenIsShown(viewer, opened))) throw notFound();
  if (!opened.isStaff && row.handedInAt === null) {
    const standing = standingIn(row, quiz, await workOf(database(), row.id, quiz));
    if (!picturesIn(standing).includes(pictureId)) throw notFound();
  }
  const picture = quiz.pictures?.find(({ id }) => id === pictureId);
  const found = picture && decoded(picture);
  if (!found) throw notFound();
  return found;
}
