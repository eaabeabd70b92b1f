import type { IncomingMessage, ServerResponse } from "node:http";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { ZipArchive } from "archiver";
import { tokenOf, viewerOf } from "../access/viewer";
import { spend } from "../base/budgets";
import { log } from "../base/log";
import { notSignedIn } from "../base/problems";
import { answerProblem } from "../edge/answer-problem";
import { ownData } from "./own-data";

const PATH = "/profile/my-data.zip";

/**
 * Gives a person all that is kept about them as one archive, in a stream, beside the framework, which would hold it whole.
 * Returns whether the request was for it.
 */
export function ownDataLane(
  request: IncomingMessage,
  response: ServerResponse,
  path: string | null,
): boolean {
  if (request.method !== "GET" || path !== PATH) return false;
  void give(request, response);
  return true;
}

async function give(request: IncomingMessage, response: ServerResponse): Promise<void> {
  try {
    const viewer = await viewerOf(tokenOf(request));
    if (!viewer) throw notSignedIn();
    await spend("takingOut", viewer.id);
    const archive = new ZipArchive({ zlib: { level: 6 } });
    response.writeHead(200, {
      "content-type": "application/zip",
      "content-disposition": 'attachment; filename="my-data.zip"',
      "cache-control": "private, no-store",
      "x-content-type-options": "nosniff",
    });
    const sent = pipeline(archive, response);
    const filled = async () => {
      for await (const { path, content } of ownData(viewer)) {
        if (response.destroyed) return;
        // One after the other: the next is read once this one is through.
        const written = new Promise((done) => archive.once("entry", done));
        archive.append(typeof content === "string" ? content : Readable.from(content), { name: path });
        await Promise.race([written, sent]);
      }
      await archive.finalize();
    };
    await Promise.all([sent, filled()]);
  } catch (error) {
    if (response.destroyed) return;
    if (response.headersSent) log.error({ err: error }, "what is kept about somebody could not be taken out");
    answerProblem(request, response, error, PATH);
  }
}
