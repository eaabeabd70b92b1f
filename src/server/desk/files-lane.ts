import type { IncomingMessage, ServerResponse } from "node:http";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { t } from "@/words/t";
import { tokenOf, type Viewer, viewerOf } from "../access/viewer";
import { spend } from "../base/budgets";
import { notSignedIn, Problem } from "../base/problems";
import { answerProblem } from "../edge/answer-problem";
import { fileOf, type KeptFile } from "./uploads";

const FILE = /^\/api\/attempts\/([^/]+)\/files\/([^/]+)$/;
/** Types that a browser shows by itself and that can run nothing in a sandbox. */
const SHOWN = /^(image\/(png|jpeg|gif|webp|avif|bmp|apng)|application\/pdf|text\/plain|audio\/.+|video\/.+)$/;

/** A file that is asked for: its name, and how it is found for who may have it. */
interface WantedFile {
  readonly name: string;
  readonly find: (viewer: Viewer) => Promise<KeptFile>;
}
/** Whether a path is that of a file; null: it is none. */
type FileWay = (path: string) => WantedFile | null;

/**
 * Gives files in a stream, as fast as they are taken in and no faster, beside the framework, which would hold them whole.
 * Each lane knows the addresses of some files; it returns whether the request was for one.
 */
export const fileLane =
  (way: FileWay) =>
  (request: IncomingMessage, response: ServerResponse, path: string | null): boolean => {
    if (request.method !== "GET" && request.method !== "HEAD") return false;
    const wanted = path === null ? null : way(path);
    if (path === null || !wanted) return false;
    void give(request, response, path, wanted);
    return true;
  };

/** The files of an attempt, for its student and for staff. */
export const filesLane = fileLane((path) => {
  const [, attemptId, fileId] = FILE.exec(path) ?? [];
  return attemptId === undefined || fileId === undefined
    ? null
    : { name: fileId, find: (viewer) => fileOf(viewer, attemptId, fileId) };
});

/** The part of a file that is asked for (RFC 9110, one range); all of it where none is, null where there is no such part. */
export function partOf(range: string | undefined, size: number): { from: number; to: number } | null {
  const [, first, last] = /^bytes=(\d*)-(\d*)$/.exec(range ?? "") ?? [];
  if (first === undefined || last === undefined || (first === "" && last === "")) {
    return { from: 0, to: size - 1 };
  }
  const from = first === "" ? Math.max(0, size - Number(last)) : Number(first);
  const to = first === "" || last === "" ? size - 1 : Math.min(Number(last), size - 1);
  return from < size && from <= to ? { from, to } : null;
}

/** The pieces up to so many bytes. */
async function* upTo(pieces: AsyncIterable<Buffer>, bytes: number): AsyncGenerator<Buffer> {
  let left = bytes;
  for await (const piece of pieces) {
    yield piece.length > left ? piece.subarray(0, left) : piece;
    left -= piece.length;
    if (left <= 0) return;
  }
}

async function give(
  request: IncomingMessage,
  response: ServerResponse,
  path: string,
  wanted: WantedFile,
): Promise<void> {
  try {
    const viewer = await viewerOf(tokenOf(request));
    if (!viewer) throw notSignedIn();
    await spend("reading", viewer.id);
    const file = await wanted.find(viewer);
    const shown = SHOWN.test(file.type) && !/[?&]download\b/.test(request.url ?? "");
    const name = encodeURIComponent(file.name).replace(/['()*]/g, (c) => `%${c.charCodeAt(0).toString(16)}`);
    // A file never changes under its name, so its name is its mark; whether it may be seen is asked each time.
    const etag = `"${wanted.name}"`;
    const headers = {
      "content-type": file.type === "text/plain" ? "text/plain; charset=utf-8" : file.type,
      "content-disposition": `${shown ? "inline" : "attachment"}; filename*=UTF-8''${name}`,
      "content-security-policy":
        "sandbox; default-src 'none'; style-src 'unsafe-inline'; img-src 'self'; media-src 'self'",
      "x-content-type-options": "nosniff",
      "cache-control": "private, no-cache",
      "accept-ranges": "bytes",
      etag,
    };
    if (request.headers["if-none-match"] === etag) {
      response.writeHead(304, headers).end();
      return;
    }
    const part = partOf(request.headers.range, file.size);
    if (!part)
      throw new Problem(
        416,
        "no-such-part",
        t("server.desk.files-lane.this-file-has-bytes-there-is", { size: file.size }),
      );
    const length = part.to - part.from + 1;
    const isWhole = length === file.size;
    response.writeHead(isWhole ? 200 : 206, {
      ...headers,
      "content-length": String(length),
      ...(isWhole
        ? {}
        : {
            "content-range": `bytes ${part.from}-${part.to}/${file.size}`,
          }),
    });
    if (request.method === "HEAD") response.end();
    else await pipeline(Readable.from(upTo(file.from(part.from), length)), response);
  } catch (error) {
    // A client that stops reading in the middle is not a fault.
    if (!response.destroyed) answerProblem(request, response, error, path);
  }
}
