import { Readable } from "node:stream";
import { ZipArchive } from "archiver";
import { and, eq, inArray } from "drizzle-orm";
import { assembled } from "@/core/draft/assembled";
import { assetsOf } from "@/core/draft/pieces";
import { asFile } from "@/core/quiz/as-file";
import { database } from "@/data/database";
import { asset } from "@/data/schema";
import type { Viewer } from "../access/viewer";
import { log } from "../base/log";
import { piecesOfDraft } from "./draft-pieces";
import { openDraft } from "./open-draft";
import { QUIZ_NAME } from "./quiz-archive";

const ENDINGS: Readonly<Record<string, string>> = {
  "image/png": "png",
  "image/jpeg": "jpg",
  "image/gif": "gif",
  "image/webp": "webp",
  "image/svg+xml": "svg",
  "audio/wav": "wav",
  "audio/mpeg": "mp3",
  "audio/ogg": "ogg",
  "audio/mp4": "m4a",
  "video/webm": "webm",
  "video/mp4": "mp4",
};

/** A name that any system takes for a file. */
const fileName = (title: string): string =>
  title
    .normalize("NFKD")
    .replace(/[^A-Za-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "")
    .toLowerCase()
    .slice(0, 60) || "quiz";

/** A draft as an archive: the quiz file, as far as it is written, and beside it what it shows and plays; one file read at a time. */
export async function quizArchive(
  viewer: Viewer,
  draftId: string,
): Promise<{ readonly name: string; readonly body: ReadableStream }> {
  const { draft, course } = await openDraft(viewer, draftId);
  const pieces = await piecesOfDraft(database(), draft.id);
  const ids = assetsOf(pieces);
  const held =
    ids.length === 0
      ? []
      : await database()
          .select({ id: asset.id, type: asset.type })
          .from(asset)
          .where(and(eq(asset.courseId, course.id), inArray(asset.id, ids)));
  const names = new Map(held.map(({ id, type }) => [id, `${id}.${ENDINGS[type] ?? "png"}`]));
  const named = (id: string) => ({ file: names.get(id) ?? `${id}.png` });
  const { quiz } = assembled(pieces, { picture: named, recording: named });
  // Pictures and films are packed already.
  const archive = new ZipArchive({ store: true });
  const fill = async () => {
    archive.append(JSON.stringify(asFile(quiz), null, 2), { name: QUIZ_NAME });
    for (const [id, name] of names) {
      const [row] = await database().select({ bytes: asset.bytes }).from(asset).where(eq(asset.id, id));
      const written = new Promise((done) => archive.once("entry", done));
      if (row) {
        archive.append(row.bytes, { name });
        await written;
      }
    }
    await archive.finalize();
  };
  void fill().catch((error) => {
    log.error({ err: error }, "a quiz could not be taken out");
    archive.destroy(error instanceof Error ? error : new Error(String(error)));
  });
  return { name: `${fileName(quiz.title)}.zip`, body: Readable.toWeb(archive) as ReadableStream };
}
