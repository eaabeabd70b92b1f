import { createHash } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { fileTypeFromBuffer } from "file-type";
import sharp from "sharp";
import { validate as isUuid } from "uuid";
import { database, type Queryable } from "@/data/database";
import { asset } from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { badInput, notFound } from "../base/problems";
import { openDraft } from "./open-draft";

/** In bytes: what a quiz file takes of one. */
export const LARGEST_PICTURE = 6_000_000;
export const LARGEST_RECORDING = 9_000_000;
/** As many points as a picture may have; a small file may hold more than any screen. */
const MOST_POINTS = 50_000_000;

const PICTURES = new Set(["image/png", "image/jpeg", "image/gif", "image/webp"]);
const SOUNDS: Readonly<Record<string, string>> = {
  "audio/wav": "audio/wav",
  "audio/vnd.wave": "audio/wav",
  "audio/mpeg": "audio/mpeg",
  "audio/ogg": "audio/ogg",
  "audio/mp4": "audio/mp4",
  "audio/x-m4a": "audio/mp4",
  "video/webm": "video/webm",
  "video/mp4": "video/mp4",
};

const DRAWING = "image/svg+xml";
/** A drawing is shown as a picture, where nothing in it runs or is fetched; what would in another place is refused all the same. */
const RUNS =
  /<\s*(?:script|foreignObject|iframe|animate|set)\b|\son\w+\s*=|(?:href|src)\s*=\s*["'](?!#|data:image\/(?:png|jpeg|gif|webp);)|url\(\s*(?!["']?#)|@import|<!ENTITY/i;
const isDrawing = (bytes: Buffer): boolean =>
  /^\uFEFF?\s*(?:<\?xml[^>]*>\s*)?(?:<!--(?:(?!-->)[\s\S])*-->\s*)*<svg[\s>]/.test(
    bytes.toString("utf8", 0, 4_096),
  );

/** A file of a course as it was kept. */
export interface KeptAsset {
  readonly asset: string;
  readonly type: string;
  readonly aspect: number;
}

/** What bytes are, told by the bytes. @throws Problem where they are neither a picture nor a recording that can be shown */
async function read(bytes: Buffer): Promise<{ readonly type: string; readonly aspect: number }> {
  const isDrawn = isDrawing(bytes);
  const found = isDrawn ? DRAWING : ((await fileTypeFromBuffer(bytes))?.mime ?? "");
  if (isDrawn || PICTURES.has(found)) {
    if (bytes.length > LARGEST_PICTURE)
      throw badInput(t("server.drafts.assets.too-large", { most: LARGEST_PICTURE / 1_000_000 }));
    if (isDrawn && RUNS.test(bytes.toString("utf8")))
      throw badInput(t("server.drafts.assets.drawing-does-more"));
    const { width, height } = await sharp(bytes, { limitInputPixels: MOST_POINTS })
      .metadata()
      .catch(() => ({ width: undefined, height: undefined }));
    if (!width || !height || width * height > MOST_POINTS)
      throw badInput(t("server.drafts.assets.the-picture-cannot-be-read"));
    return { type: found, aspect: width / height };
  }
  const type = SOUNDS[found];
  if (type === undefined) throw badInput(t("server.drafts.assets.neither-picture-nor-recording"));
  if (bytes.length > LARGEST_RECORDING)
    throw badInput(t("server.drafts.assets.too-large", { most: LARGEST_RECORDING / 1_000_000 }));
  return { type, aspect: 1 };
}

/** Keeps bytes as a file of a course; the same bytes are one file. @throws Problem */
export async function keepAsset(
  db: Queryable,
  terms: { readonly courseId: string; readonly by: string; readonly bytes: Buffer },
): Promise<KeptAsset> {
  const { courseId, by, bytes } = terms;
  const { type, aspect } = await read(bytes);
  const digest = createHash("sha256").update(bytes).digest("hex");
  const id = newId();
  await db
    .insert(asset)
    .values({ id, courseId, type, digest, aspect, bytes, createdBy: by })
    .onConflictDoNothing();
  const [kept] = await db
    .select({ id: asset.id })
    .from(asset)
    .where(and(eq(asset.courseId, courseId), eq(asset.digest, digest)));
  if (!kept) throw notFound();
  return { asset: kept.id, type, aspect };
}

/** Keeps a picture, a sound or a film that an author brings to a draft. @throws Problem */
export async function addAsset(viewer: Viewer, draftId: string, bytes: Buffer): Promise<KeptAsset> {
  const { course } = await openDraft(viewer, draftId);
  return keepAsset(database(), { courseId: course.id, by: viewer.id, bytes });
}

/** A file of the course of a draft, for who may write in it. @throws Problem "not found" */
export async function assetOf(
  viewer: Viewer,
  draftId: string,
  assetId: string,
): Promise<{ readonly type: string; readonly bytes: Buffer }> {
  const { course } = await openDraft(viewer, draftId);
  const [row] = isUuid(assetId)
    ? await database()
        .select({ type: asset.type, bytes: asset.bytes })
        .from(asset)
        .where(and(eq(asset.id, assetId), eq(asset.courseId, course.id)))
    : [];
  if (!row) throw notFound();
  return row;
}
