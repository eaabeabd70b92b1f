import { and, asc, eq } from "drizzle-orm";
import { database } from "@/data/database";
import { answer } from "@/data/schema";
import type { Viewer } from "../access/viewer";
import { fileLane } from "../desk/files-lane";
import { type MediumSent, mediumOfPaper } from "../desk/media";
import { type KeptFile, keptFile } from "../desk/uploads";
import { roomName } from "./answer-view";
import { openRoom, paperOf } from "./room";

/** Where a file stands in what was handed in of a paper; 0 where it is none of an upload. */
async function placeOf(attemptId: string, fileId: string): Promise<number> {
  const rows = await database()
    .select({ answer: answer.answer })
    .from(answer)
    .where(and(eq(answer.attemptId, attemptId)))
    .orderBy(asc(answer.slot));
  for (const { answer: written } of rows) {
    const files = (written as { files?: readonly { readonly id: string }[] } | null)?.files ?? [];
    const place = files.findIndex(({ id }) => id === fileId);
    if (place !== -1) return place;
  }
  return 0;
}

/** A file of a paper, for who may mark it; where names are hidden, its name tells nothing. @throws Problem "not found" */
async function fileOfPaper(viewer: Viewer, quizId: string, paper: number, fileId: string): Promise<KeptFile> {
  const room = await openRoom(viewer, quizId);
  const row = await paperOf(room, paper);
  const file = await keptFile(row.id, fileId);
  return { ...file, name: roomName(file.name, await placeOf(row.id, fileId), room.namesHidden) };
}

/** A picture, a sound or a film of a paper's questions, for who may mark it. @throws Problem "not found" */
export async function mediumOfRoom(
  viewer: Viewer,
  quizId: string,
  paper: number,
  kind: "pictures" | "recordings",
  name: string,
): Promise<MediumSent> {
  const room = await openRoom(viewer, quizId);
  return mediumOfPaper(await paperOf(room, paper), kind, name);
}

const FILE = /^\/api\/quizzes\/([^/]+)\/papers\/(\d{1,5})\/files\/([^/]+)$/;

/** The files of papers, in the marking room. */
export const roomFilesLane = fileLane((path) => {
  const [, quizId, paper, fileId] = FILE.exec(path) ?? [];
  return quizId === undefined || fileId === undefined
    ? null
    : { name: `${paper} ${fileId}`, find: (viewer) => fileOfPaper(viewer, quizId, Number(paper), fileId) };
});
